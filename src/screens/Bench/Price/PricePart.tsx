'use client';

import { followBase, setAimForAll, setAims, setPlan } from '@/bench/pricing';
import { ENDINGS, type Aim, type Ending } from '@/core/pricing/solve';
import { formatMoney, money, parseAmountMinor, parsePercentPpm } from '@/core/pricing/money';
import { planFor } from '@/core/pricing/plan';
import { variantName } from '@/core/variants/tiers';
import { Alert } from '@/ui/Alert';
import { EntryField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import { priceAll, tierRows, type TierRow } from '../view';

const ENDING_NAMES: Record<Ending, string> = {
  none: 'as it comes',
  '.99': '.99',
  '.95': '.95',
  '.50': '.50',
  '.00': '.00',
};

/** Prices by tier: type retail, profit or margin, the others follow. For all stores, or for the store in view alone. */
export function PricePart() {
  const desk = useDesk();
  const { data, doc, rates, store, priceScope: scope, setPriceScope: setScope } = desk;
  const { home } = data;
  const own = scope === 'store' && store !== null;
  const storeId = own ? store.id : null;
  const outlet = own ? store : { id: null, name: 'No store', currency: home.currency, fees: [], expectedSales: 1 };
  const country = own ? (store.sellsTo[0] ?? home.country) : home.country;
  const { priced, problem } = priceAll(doc, { blank: data.blank, list: data.list, rates, outlet, country });
  const rows = tierRows(doc, data.blank, data.list, priced);
  const plan = planFor(doc, storeId);
  const { currency } = outlet;
  const fix = (row: TierRow | null, aim: Aim) => {
    const what = aim.kind === 'retail' ? 'price' : aim.kind;
    if (row) desk.edit(`Set ${what} of ${row.tier.name}`, (d) => setAims(d, storeId, row.tier.variantKeys, aim));
    else desk.edit(`Set ${what} of all`, (d) => setAimForAll(d, storeId, aim));
  };
  const readAmount = (kind: 'retail' | 'profit', row: TierRow | null) => (typed: string) => {
    const amountMinor = parseAmountMinor(typed, currency);
    if (kind === 'retail' && amountMinor < 0) throw new Error('A price cannot be negative.');
    fix(row, { kind, amountMinor });
  };
  const readMargin = (row: TierRow | null) => (typed: string) => {
    const ppm = parsePercentPpm(typed);
    const taken = outlet.fees.reduce(
      (sum, fee) => sum + (fee.basis === 'item' || fee.basis === 'item+shipping' ? fee.ratePpm : 0),
      0,
    );
    if (ppm + taken >= 1_000_000)
      throw new Error(
        `A margin of ${typed.trim()} cannot be reached: with the store’s fees of ${taken / 10_000} % nothing would be left for the cost.`,
      );
    fix(row, { kind: 'margin', ppm });
  };
  const follows = store !== null && doc.price.stores[store.id] === undefined;
  const cell = 'text-right py-1.5';
  return (
    <div className="px-7 py-5">
      <div className="flex items-baseline gap-6 mb-1">
        <h2 className="font-display text-[20px] font-semibold">Price</h2>
        <div role="tablist" aria-label="Prices for" className="flex gap-4">
          <button
            type="button"
            role="tab"
            aria-selected={!own}
            className={own ? 'text-muted hover:text-ink' : 'font-semibold border-b border-primary'}
            onClick={() => setScope('base')}
          >
            All stores, {home.currency}
          </button>
          {store && (
            <button
              type="button"
              role="tab"
              aria-selected={own}
              className={own ? 'font-semibold border-b border-primary' : 'text-muted hover:text-ink'}
              onClick={() => setScope('store')}
            >
              {store.channelName}, {store.currency}
            </button>
          )}
        </div>
      </div>
      <p className="text-small text-muted mb-3">
        {own
          ? follows
            ? `${store.channelName} follows the prices for all stores. What you type here holds for ${store.channelName} alone.`
            : `${store.channelName} has prices of its own. `
          : 'Before any store’s fees. Each store turns a price into its currency, or reaches the margin with its own fees.'}
        {own && !follows && (
          <button
            type="button"
            className="text-primary underline"
            onClick={() => desk.edit('Follow the base price', (d) => followBase(d, store.id))}
          >
            Follow all stores again
          </button>
        )}
      </p>
      {problem && <Alert className="mb-3">{problem}</Alert>}
      {rows.length === 0 ? (
        <p className="text-muted">
          {problem ? 'Mend that first.' : 'Choose colors and sizes first; each has its cost.'}
        </p>
      ) : (
        <table className="w-full max-w-4xl text-small">
          <thead className="text-muted border-y border-hairline">
            <tr>
              <th className="font-normal text-left py-2">Tier</th>
              <th className="font-normal text-right">Making, {currency}</th>
              <th className="font-normal text-right">Price, {currency}</th>
              <th className="font-normal text-right">Profit, {currency}</th>
              <th className="font-normal text-right">Margin</th>
              <th className="font-normal text-right pl-6">Floor, {currency}</th>
              <th className="font-normal text-left pl-6">Fixed</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.tier.costMinor} className="border-b border-hairline">
                <td className="py-1.5">
                  <span className="font-semibold">{row.tier.name}</span>
                  <span className="block text-tiny text-muted">
                    {row.tier.variantKeys.length === 1
                      ? variantName(data.blank, row.tier.variantKeys[0]!)
                      : `${row.tier.variantKeys.length} variants`}
                  </span>
                </td>
                <td className={cell}>{row.making}</td>
                <td className={cell}>
                  <EntryField
                    label={`Price of ${row.tier.name}`}
                    showLabel={false}
                    text={row.retail}
                    read={readAmount('retail', row)}
                    step={(by) => readAmount('retail', row)(stepped(row.retail, by))}
                  />
                  {row.belowFloor && <span className="block text-tiny text-stop">below the floor: a loss</span>}
                  {row.mixed && <span className="block text-tiny text-caution">prices differ within</span>}
                </td>
                <td className={cell}>
                  <EntryField
                    label={`Profit of ${row.tier.name}`}
                    showLabel={false}
                    text={row.profit}
                    read={readAmount('profit', row)}
                  />
                </td>
                <td className={cell}>
                  <EntryField
                    label={`Margin of ${row.tier.name}`}
                    showLabel={false}
                    text={row.margin}
                    read={readMargin(row)}
                  />
                </td>
                <td className={cell}>{row.floor}</td>
                <td className="pl-6 text-muted">{row.fixed}</td>
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr className="border-b border-hairline bg-paper">
              <td className="py-1.5 text-muted" colSpan={2}>
                Set all tiers
              </td>
              <td className={cell}>
                <EntryField label="Price of all" showLabel={false} text="" read={readAmount('retail', null)} />
              </td>
              <td className={cell}>
                <EntryField label="Profit of all" showLabel={false} text="" read={readAmount('profit', null)} />
              </td>
              <td className={cell}>
                <EntryField label="Margin of all" showLabel={false} text="" read={readMargin(null)} />
              </td>
              <td colSpan={2} />
            </tr>
          </tfoot>
        </table>
      )}
      <div className="flex gap-8 mt-4">
        <Select
          label="Prices end in"
          value={plan.ending}
          choices={ENDINGS.map((value) => ({ value, name: ENDING_NAMES[value] }))}
          onChange={(ending) => desk.edit('Set ending', (d) => setPlan(d, storeId, { ending }))}
        />
        <Select
          label="Shipping is"
          value={plan.shipping}
          choices={[
            { value: 'charged', name: 'paid by the buyer' },
            { value: 'folded', name: 'in the price' },
          ]}
          onChange={(shipping) => desk.edit('Set shipping', (d) => setPlan(d, storeId, { shipping }))}
        />
      </div>
      {priced[0] && (
        <p className="text-tiny text-muted mt-4">
          The floor is the lowest price at which nothing is lost, after everything: making, the partner’s shipping
          {own ? ' and the store’s fees' : ''}. Base cost of {data.blank.partner.name} in {data.list.currency}
          {data.list.currency === currency
            ? ''
            : `, at ${formatMoney(money(100, data.list.currency))} = ${formatMoney(rates.convert(money(100, data.list.currency), currency))}`}
          .
        </p>
      )}
    </div>
  );
}

/** A shown amount one unit (100 minor of a two-decimal currency) up or down, as typed text. */
function stepped(text: string, by: number): string {
  const [whole = '0', decimals] = text.replace('−', '-').split('.');
  const value = Math.max(0, Number(whole) + by);
  return decimals === undefined ? String(Math.round(value)) : `${Math.floor(value)}.${decimals}`;
}
