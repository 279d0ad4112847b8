import { askToReplace, previewReplacement } from '@/server/artwork/replace';
import { readBody } from '@/server/http/body';
import { ReplacementDto } from '@/server/http/dto/artwork';
import { json, route } from '@/server/http/route';

type Params = { id: string };

/** What would change if `?with=` were put in its place everywhere: the newest hundred products, and how many there are. */
export const GET = route<Params>('read', async ({ ctx, actor, params, query }) =>
  json(await previewReplacement(ctx, actor, params.id, query.get('with') ?? '')),
);

/** Puts another artwork in its place in all products, by a job. */
export const POST = route<Params>('design', async ({ ctx, actor, request, params }) => {
  const { with: by } = await readBody(request, ReplacementDto);
  return json(await askToReplace(ctx, actor, params.id, by), 202);
});
