import type { Context } from '@/server/context';
import { isAnyoneHere } from '@/server/people/people';

/** Where to go after signing in (only a page of ours), and whether this is the first time anyone comes here. */
export async function loadSignIn(ctx: Context, back: string | undefined): Promise<{ back: string; first: boolean }> {
  const first = !(await isAnyoneHere(ctx.db));
  return { back: back && /^\/(?!\/)[\w/-]*$/.test(back) ? back : '/range', first };
}
