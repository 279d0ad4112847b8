import { deriveArtwork } from '@/server/artwork/derive';
import { readBody } from '@/server/http/body';
import { DerivationDto } from '@/server/http/dto/artwork';
import { json, route } from '@/server/http/route';

/** Makes a new artwork out of this one: trimmed, without its flat background, solid, or enlarged. 202, then a job makes it. */
export const POST = route<{ id: string }>('design', async ({ ctx, actor, request, params }) =>
  json(await deriveArtwork(ctx, actor, params.id, await readBody(request, DerivationDto)), 202),
);
