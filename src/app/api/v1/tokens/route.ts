import { readBody } from '@/server/http/body';
import { TokenDto } from '@/server/http/dto/people';
import { json, route } from '@/server/http/route';
import { accessTokens, createAccessToken } from '@/server/people/tokens';

export const GET = route('keys', async ({ ctx, actor }) => json({ tokens: await accessTokens(ctx, actor) }));

/** Makes a token with some scopes (all, when none are named) for some days (90). */
export const POST = route('keys', async ({ ctx, actor, request }) =>
  json(await createAccessToken(ctx, actor, await readBody(request, TokenDto)), 201),
);
