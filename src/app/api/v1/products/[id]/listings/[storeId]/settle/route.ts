import { FIRST_LISTING } from '@/core/document/split';
import { invalid, notFound } from '@/core/errors';
import { kindOfField } from '@/core/sync/changed';
import { readBody } from '@/server/http/body';
import { SettleDto, type SettleFieldDto } from '@/server/http/dto/sends';
import { need } from '@/server/people/scopes';
import { json, route } from '@/server/http/route';
import { listingAt } from '@/server/listings/place';
import { settle, settleAll, type Settles } from '@/server/listings/settle';
import { loadBundle } from '@/server/products/bundle';
import { findStore } from '@/server/stores/stores';

type Params = { id: string; storeId: string };

const choiceOf = ({ hold, value }: SettleFieldDto) => hold ?? { value };

function refuseBody({ fields, all }: SettleDto): void {
  if ((fields === undefined) === (all === undefined))
    throw invalid('settle-what', 'Say either fields, each with what holds, or all: ours or theirs.');
  for (const { field, hold, value } of fields ?? [])
    if ((hold === undefined) === (value === undefined))
      throw invalid('settle-what', `${field} needs either hold (ours or theirs) or a value.`);
}

function settlesOf(fields: readonly SettleFieldDto[]): Settles {
  const choices = new Map(fields.map((one) => [one.field, choiceOf(one)]));
  return ({ field }) => choices.get(field) ?? null;
}

/** Settles what differs between here and the shop: ours is kept, theirs is taken into the product, or something else is written. */
export const POST = route<Params>('design', async ({ ctx, actor, request, params }) => {
  const body = await readBody(request, SettleDto);
  refuseBody(body);
  if (body.all !== undefined || body.fields!.some(({ field }) => kindOfField(field) === 'price'))
    need(actor.credential, 'price');
  const [bundle, store] = await Promise.all([
    loadBundle(ctx, actor.workspaceId, params.id),
    findStore(ctx, actor.workspaceId, params.storeId),
  ]);
  const row = await listingAt(ctx, actor.workspaceId, params.id, store.id, body.number ?? FIRST_LISTING);
  if (!row) throw notFound('listing of this product in the store', params.storeId);
  const { where, thereHash, all: hold, fields = [] } = body;
  if (hold !== undefined) return json(await settleAll(ctx, actor, bundle, store, row, { hold, where, thereHash }));
  const settled = await settle(ctx, actor, bundle, store, row, { settles: settlesOf(fields), where, thereHash });
  return json({ ...settled, left: [] });
});
