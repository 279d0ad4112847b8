import { readBody } from '@/server/http/body';
import { clientOf } from '@/server/http/client';
import { AccountDto } from '@/server/http/dto/people';
import { needJsonType, refuseForeign } from '@/server/http/origin';
import { json, publicRoute } from '@/server/http/route';
import { createAccount } from '@/server/people/people';
import { beginSignUp } from '@/server/people/sign-in-limits';

/** Makes an account with a workspace of its own. */
export const POST = publicRoute(async ({ ctx, request }) => {
  refuseForeign(ctx, request);
  needJsonType(request);
  const account = await readBody(request, AccountDto);
  await beginSignUp(ctx, clientOf(request));
  return json(await createAccount(ctx, account), 201);
});
