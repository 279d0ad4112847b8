import type { Context } from '@/server/context';

/** Where to go after signing in (only a page of ours), and whether this is the first time anyone comes here. */
export async function loadSignIn(ctx: Context, back: string | undefined): Promise<{ back: string; first: boolean }> {
  const person = await ctx.db.row('SELECT id FROM person LIMIT 1');
  return { back: back && /^\/(?!\/)[\w/-]*$/.test(back) ? back : '/range', first: person === null };
}
