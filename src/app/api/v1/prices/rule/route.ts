import { readBody } from '@/server/http/body';
import { RuleToManyDto } from '@/server/http/dto/pricing';
import { json, route } from '@/server/http/route';
import { reckon } from '@/server/reckoning/reckoners';

/** Puts a rule that was kept to all products of kinds or tags: says what it would change, or with `?apply=true` changes it, all or nothing. */
export const POST = route('price', async ({ ctx, actor, request, query }) => {
  const to = await readBody(request, RuleToManyDto);
  const { workspaceId } = actor;
  return json(
    query.get('apply') === 'true'
      ? await reckon(ctx, 'apply-rule', { actor, to }, workspaceId)
      : await reckon(ctx, 'preview-rule', { workspaceId, to }, workspaceId),
  );
});
