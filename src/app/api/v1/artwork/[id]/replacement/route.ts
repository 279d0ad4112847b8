import { previewReplacement, replaceEverywhere } from '@/server/artwork/replace';
import { readBody } from '@/server/http/body';
import { ReplacementDto } from '@/server/http/dto/artwork';
import { json, route } from '@/server/http/route';

type Params = { id: string };

/** What would change if `?with=` were put in its place everywhere. */
export const GET = route<Params>('read', async ({ ctx, actor, params, query }) =>
  json({ products: await previewReplacement(ctx, actor, params.id, query.get('with') ?? '') }),
);

/** Puts another artwork in its place in all products. */
export const POST = route<Params>('design', async ({ ctx, actor, request, params }) => {
  const { with: by } = await readBody(request, ReplacementDto);
  return json(await replaceEverywhere(ctx, actor, params.id, by));
});
