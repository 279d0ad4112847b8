'use client';

import { useState } from 'react';
import { shippingTo } from '@/core/catalog/blank';
import { countryName } from '@/core/country-names';
import { ownEntry } from '@/core/own-entry';
import { formatAmount, money } from '@/core/pricing/money';
import type { PricedVariant } from '@/core/pricing/pricer';
import { matchShipping, SHIPPING_MODELS, type ShippingModelKind } from '@/core/pricing/shipping-models';
import { shippingCharge } from '@/core/pricing/shipping-charge';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import type { PriceWorld } from './prices';

const MODEL_NAMES: Record<ShippingModelKind, string> = {
  'order+item': 'a sum per order and per item',
  'first+further': 'first and further items',
  item: 'a sum per item',
  weight: 'a table by weight',
  flat: 'one sum per order',
  free: 'free',
};

/** How a store can say what the partner takes for sending to where the aim is met, and by how much each way of saying it is off. */
export function ShippingWords({ one, world }: { one: PricedVariant; world: PriceWorld }) {
  const { data } = useDesk('data');
  const [kind, setKind] = useState<ShippingModelKind>('order+item');
  const { currency } = world.outlet;
  const { country } = one;
  const amount = (minor: number) => formatAmount(money(minor, currency));
  const told = shippingTo(data.list, country) && shippingCharge(world, country);
  if (!told) return null;
  const itemWeightG = data.blank.variants.find(({ key }) => key === one.key)?.packWeightG ?? 0;
  const matched = matchShipping({ ...told, itemWeightG }, kind);
  return (
    <section>
      <h3 className="flex items-baseline gap-3 text-small font-medium mb-1">
        Shipping to {countryName(country)} as
        <Select
          label="How the store says it"
          quiet
          value={kind}
          choices={SHIPPING_MODELS.map((value) => ({ value, name: MODEL_NAMES[value] }))}
          onChange={setKind}
        />
      </h3>
      <p className="text-small mb-1">
        {ownEntry(world.outlet.shippingByClass, data.blank.parcelClass) ? world.outlet.name : 'The partner'} takes{' '}
        {amount(told.firstMinor)} for the first and {amount(told.furtherMinor)} for each further item.{' '}
        {modelText(matched.model, amount)}
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
