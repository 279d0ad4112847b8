'use client';

import Link from 'next/link';
import { useState } from 'react';
import { shippingTo } from '@/core/catalog/blank';
import { isTypicaError } from '@/core/errors';
import { quoteMix } from '@/core/pricing/everywhere';
import { formatAmount, formatPercent, money } from '@/core/pricing/money';
import { termsFor } from '@/core/pricing/plan';
import { quote } from '@/core/pricing/quote';
import { BASKETS, matchShipping, SHIPPING_MODELS, type ShippingModelKind } from '@/core/pricing/shipping-models';
import { Select } from '@/ui/Select';
import { countryName } from '../../countries';
import { useDesk } from '../desk';
import type { BenchStore } from '../load';

const MODEL_NAMES: Record<ShippingModelKind, string> = {
  'order+item': 'a sum per order and per item',
  'first+further': 'first and further items',
  item: 'a sum per item',
  weight: 'a table by weight',
  flat: 'one sum per order',
  free: 'free',
};

/** What is left by destination and basket, on the whole where the seller sells, and how a store can say what the partner takes for sending. */
export function Everywhere({ store }: { store: BenchStore | null }) {
  const { doc, data, variant, pricesAt } = useDesk();
  const { world, priced } = pricesAt(store);
  const one = priced.find(({ key }) => key === variant) ?? priced[0];
  const [kind, setKind] = useState<ShippingModelKind>('order+item');
  if (!one) return <p className="text-muted">Choose colors and sizes first.</p>;
  const { currency } = world.outlet;
  const amount = (minor: number) => formatAmount(money(minor, currency));
  const mix = data.settings.mix.length > 0 ? data.settings.mix : [{ country: data.home.country, weight: 1 }];
  const countries = [
    ...new Set([world.country, ...mix.map(({ country }) => country), ...(store?.sellsTo ?? [])]),
  ].slice(0, 12);
  const termsOf = (country: string, items: number) => {
    try {
      return termsFor(doc, one.key, { ...world, country }, items);
    } catch (error) {
      if (isTypicaError(error)) return null;
      throw error;
    }
  };
  const retail = one.quote.retailMinor;
  const lines = countries.map((country) => ({
    country,
    weight: mix.find((part) => part.country === country)?.weight ?? 0,
    sent: shippingTo(data.list, country) !== null,
    baskets: BASKETS.map((items) => {
      const terms = termsOf(country, items);
      return terms && terms.landed.shipsThere ? quote(terms, retail) : null;
    }),
  }));
  const whole = BASKETS.map((items) => {
    const parts = mix.flatMap(({ country, weight }) => {
      const terms = termsOf(country, items);
      return terms?.landed.shipsThere ? [{ terms, weight }] : [];
    });
    return parts.length > 0 ? quoteMix(parts, retail) : null;
  });
  const line = shippingTo(data.list, world.country);
  const blankVariant = data.blank.variants.find(({ key }) => key === one.key);
  const sum = (minor: number) => world.rates.convertCost(money(minor, data.list.currency), currency).amountMinor;
  const matched =
    line &&
    matchShipping(
      {
        firstMinor: sum(line.firstMinor),
        furtherMinor: sum(line.furtherMinor),
        itemWeightG: blankVariant?.packWeightG ?? 0,
      },
      kind,
    );
  return (
    <div className="grid gap-6">
      <section>
        <h3 className="text-small font-medium mb-1">
          What is left at {amount(retail)} {currency}, by destination and basket
        </h3>
        <table className="w-full text-small bg-sheet border-y border-hairline">
          <thead className="text-muted border-b border-hairline">
            <tr>
              <th className="font-normal text-left py-1.5 pl-2">To</th>
              <th className="font-normal text-right">Share</th>
              {BASKETS.map((items) => (
                <th key={items} className="font-normal text-right last:pr-2">
                  {items === 1 ? '1 item' : `${items} items`}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {lines.map(({ country, weight, sent, baskets }) => (
              <tr key={country} className="border-b border-hairline">
                <td className="py-1.5 pl-2">{countryName(country)}</td>
                <td className="text-right text-muted">{weight || '–'}</td>
                {sent ? (
                  baskets.map((q, i) => (
                    <td key={i} className={`text-right last:pr-2 ${q && q.profitMinor < 0 ? 'text-stop' : ''}`}>
                      {q ? amount(q.profitMinor) : '–'}
                      {q?.marginPpm != null && (
                        <span className="block text-tiny text-muted">{formatPercent(q.marginPpm)}</span>
                      )}
                    </td>
                  ))
                ) : (
                  <td colSpan={5} className="text-right pr-2 text-muted">
                    the partner does not send there
                  </td>
                )}
              </tr>
            ))}
            <tr className="bg-paper font-semibold">
              <td className="py-1.5 pl-2" colSpan={2}>
                On the whole
              </td>
              {whole.map((q, i) => (
                <td key={i} className={`text-right last:pr-2 ${q && q.profitMinor < 0 ? 'text-stop' : ''}`}>
                  {q ? amount(q.profitMinor) : '–'}
                  {q?.marginPpm != null && (
                    <span className="block text-tiny font-normal text-muted">{formatPercent(q.marginPpm)}</span>
                  )}
                </td>
              ))}
            </tr>
          </tbody>
        </table>
        <p className="text-tiny text-muted mt-1">
          Left of the whole order, for the variant in the ledger. The share of each destination is kept under{' '}
          <Link href="/money" className="text-primary underline">
            Rates and rules
          </Link>
          .
        </p>
      </section>
      {line && matched && (
        <section>
          <h3 className="flex items-baseline gap-3 text-small font-medium mb-1">
            Shipping to {countryName(world.country)} as
            <Select
              label="How the store says it"
              quiet
              value={kind}
              choices={SHIPPING_MODELS.map((value) => ({ value, name: MODEL_NAMES[value] }))}
              onChange={setKind}
            />
          </h3>
          <p className="text-small mb-1">
            The partner takes {amount(sum(line.firstMinor))} for the first and {amount(sum(line.furtherMinor))} for each
            further item. {modelText(matched.model, amount)}
          </p>
          <table className="text-small bg-sheet border-y border-hairline w-full">
            <thead className="text-muted border-b border-hairline">
              <tr>
                <th className="font-normal text-left py-1 pl-2">Basket</th>
                {matched.baskets.map(({ items }) => (
                  <th key={items} className="font-normal text-right last:pr-2">
                    {items}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {(
                [
                  ['Partner takes', 'partnerMinor'],
                  ['Buyer pays', 'chargedMinor'],
                  ['Difference', 'differenceMinor'],
                ] as const
              ).map(([name, of]) => (
                <tr key={of} className="border-b border-hairline">
                  <td className="py-1 pl-2">{name}</td>
                  {matched.baskets.map((basket) => (
                    <td
                      key={basket.items}
                      className={`text-right last:pr-2 ${of === 'differenceMinor' && basket[of] < 0 ? 'text-stop' : ''}`}
                    >
                      {amount(basket[of])}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
          <p className="text-tiny text-muted mt-1">
            {matched.overMinor + matched.underMinor === 0
              ? 'It is exact for baskets of 1 to 5.'
              : `Over baskets of 1 to 5 it charges ${amount(matched.overMinor)} too much and ${amount(matched.underMinor)} too little.`}
          </p>
        </section>
      )}
    </div>
  );
}

function modelText(
  model: NonNullable<ReturnType<typeof matchShipping>>['model'],
  amount: (minor: number) => string,
): string {
  switch (model.kind) {
    case 'order+item':
      return `That is ${amount(model.orderMinor)} per order and ${amount(model.itemMinor)} per item.`;
    case 'first+further':
      return 'The store can say just that.';
    case 'item':
      return `Nearest is ${amount(model.itemMinor)} per item.`;
    case 'weight':
      return `By weight: ${model.rows.map((row) => `up to ${row.upToG} g ${amount(row.sumMinor)}`).join(', ')}.`;
    case 'flat':
      return `Nearest is ${amount(model.orderMinor)} per order.`;
    case 'free':
      return 'All of it has to be in the price.';
  }
}
