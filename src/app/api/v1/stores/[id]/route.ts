import type { AnswersChange } from '@/core/listing/answers';
import type { StoreRule } from '@/core/pricing/store-rule';
import type { StandingRules } from '@/core/sync/standing-rules';
import { readBody } from '@/server/http/body';
import { StoreSettingsDto } from '@/server/http/dto/stores';
import { need } from '@/server/people/scopes';
import { json, noContent, route } from '@/server/http/route';
import { disconnectStore, renameStore } from '@/server/stores/connect';
import { changeSettings } from '@/server/stores/settings';
import { findStore } from '@/server/stores/stores';

type Params = { id: string };

export const GET = route<Params>('read', async ({ ctx, actor, params }) =>
  json(await findStore(ctx, actor.workspaceId, params.id)),
);

/** What the seller decides about a store: each member that is there. */
export const PATCH = route<Params>('price', async ({ ctx, actor, request, params }) => {
  const { name, answers, priceRule, standing, ...rest } = await readBody(request, StoreSettingsDto);
  // By these rules products are changed.
  if (standing !== undefined) need(actor.credential, 'design');
  const store = await findStore(ctx, actor.workspaceId, params.id);
  const changed = await changeSettings(ctx, store, {
    ...Object.fromEntries(Object.entries(rest).filter(([, value]) => value !== undefined)),
    ...(priceRule === undefined ? {} : { priceRule: priceRule as StoreRule | null }),
    ...(standing === undefined ? {} : { standing: { rules: standing as StandingRules, by: actor.personId } }),
    ...(answers === undefined ? {} : { answers: answers as AnswersChange }),
  });
  if (name === undefined) return json(changed);
  await renameStore(ctx, store, name);
  return json(await findStore(ctx, actor.workspaceId, params.id));
});

export const DELETE = route<Params>('keys', async ({ ctx, actor, params }) => {
  await disconnectStore(ctx, await findStore(ctx, actor.workspaceId, params.id));
  return noContent();
});
