import { invalid } from '@/core/errors';
import { SET_KINDS, type SetKind } from '@/core/named-sets';
import { readBody } from '@/server/http/body';
import { NamedSetDto } from '@/server/http/dto/named-sets';
import { json, route } from '@/server/http/route';
import { saveSet, namedSets } from '@/server/named-sets';

/** What is kept under names, `?kind=` for one kind alone. */
export const GET = route('read', async ({ ctx, actor, query }) => {
  const kind = query.get('kind');
  if (kind !== null && !(SET_KINDS as readonly string[]).includes(kind))
    throw invalid('query-unreadable', `“${kind}” cannot be used for kind: it takes one of ${SET_KINDS.join(', ')}.`, {
      name: 'kind',
    });
  return json({ sets: await namedSets(ctx, actor.workspaceId, kind as SetKind | null) });
});

/** Keeps something under a name; what had the name before is replaced. */
export const POST = route('design', async ({ ctx, actor, request }) => {
  const { kind, name, content } = await readBody(request, NamedSetDto);
  return json(await saveSet(ctx, actor.workspaceId, { kind, name: name.trim(), content }), 201);
});
