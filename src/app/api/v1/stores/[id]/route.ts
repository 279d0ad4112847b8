import type { AnswersChange } from '@/core/listing/answers';
import type { StoreRule } from '@/core/pricing/store-rule';
import type { StandingRules } from '@/core/sync/standing-rules';
import { readBody } from '@/server/http/body';
import { StoreSettingsDto } from '@/server/http/dto/stores';
import { note } from '@/server/activity/note';
import { need } from '@/server/people/scopes';
import { json, noContent, route } from '@/server/http/route';
import { disconnectStore, renameStore } from '@/server/stores/connect';
import { changeSettings } from '@/server/stores/settings';
import { findStore } from '@/server/stores/stores';

type Params = { id: string };

/** What a person calls the settings. */
const PARTS: ReadonlyMap<string, string> = new Map([
  ['answers', 'answers to the shop'],
  ['priceRule', 'price rule'],
  ['standing', 'what holds when the shop changes something'],
  ['expectedSales', 'expected sales'],
  ['aimsAt', 'where prices aim'],
  ['sendsAs', 'draft or live'],
  ['sizesIn', 'units of sizes'],
  ['squares', 'square pictures'],
]);

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
  const told = (what: string, says: string) => note(ctx.db, actor, { about: 'store', what, says, storeId: store.id });
  const parts = Object.entries({ answers, priceRule, standing, ...rest }).flatMap(([part, value]) =>
    value === undefined ? [] : [PARTS.get(part) ?? part],
  );
  if (parts.length > 0) await told('settings', `Changed settings of the store: ${parts.join(', ')}.`);
  if (name === undefined) return json(changed);
  await renameStore(ctx, store, name);
  await told('renamed', `Renamed the store from “${store.name}” to “${name.trim()}”.`);
  return json(await findStore(ctx, actor.workspaceId, params.id));
});

export const DELETE = route<Params>('keys', async ({ ctx, actor, params }) => {
  const store = await findStore(ctx, actor.workspaceId, params.id);
  await disconnectStore(ctx, store);
  const says = `Disconnected ${store.name}.`;
  await note(ctx.db, actor, { about: 'store', what: 'disconnected', says, storeId: store.id });
  return noContent();
});
