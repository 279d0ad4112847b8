import { readBody } from '@/server/http/body';
import { TokenDto } from '@/server/http/dto/people';
import { json, route } from '@/server/http/route';
import { accessTokens, createAccessToken } from '@/server/people/people';

export const GET = route(async ({ ctx, actor }) => json({ tokens: await accessTokens(ctx, actor) }));

export const POST = route(async ({ ctx, actor, request }) =>
  json(await createAccessToken(ctx, actor, (await readBody(request, TokenDto)).name), 201),
);
