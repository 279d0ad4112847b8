import { readBody } from '@/server/http/body';
import { AccountDto } from '@/server/http/dto/people';
import { json, publicRoute } from '@/server/http/route';
import { createAccount } from '@/server/people/people';

export const POST = publicRoute(async ({ ctx, request }) =>
  json(await createAccount(ctx, await readBody(request, AccountDto)), 201),
);
