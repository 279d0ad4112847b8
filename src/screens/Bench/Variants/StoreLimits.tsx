'use client';

import { colorOption } from '@/core/catalog/blank';
import { keysWith, setChosen } from '@/core/document/choosing';
import { asSoldIn, setOffered } from '@/core/document/offered';
import { asListed, soldListings } from '@/core/document/split';
import { storeLimit, type StoreLimit } from '@/core/variants/limits';
import { splitByColor } from '@/core/rules/fix-variants';
import { Button } from '@/ui/Button';
import { useDesk } from '../desk';

/** What stores cannot hold of what is chosen, as one chooses, with ways out. */
export function StoreLimits() {
  const { data, doc, edit } = useDesk('data', 'doc', 'edit');
  const color = colorOption(data.blank);
  const keysOf = ({ dropColors }: StoreLimit) =>
    dropColors.flatMap(({ code }) => keysWith(data.blank, { [color!.code]: code }));
  const namesOf = ({ dropColors }: StoreLimit) => dropColors.map(({ name }) => name).join(', ');
  return data.stores.flatMap((store) => {
    const sold = asSoldIn(doc, store.id);
    const numbers = soldListings(doc, store.id);
    const limits = numbers.map((number) =>
      storeLimit(asListed(sold, store.id, number), data.blank, store.demands, store.channelName),
    );
    const limit = limits.find(({ says }) => says !== null);
    if (!limit)
      return limits.map(({ variants, variantsMax, options, optionsMax }, i) =>
        variants > 0 ? (
          <p key={`${store.id} ${numbers[i]!}`} className="text-tiny text-muted mt-1" data-testid="store-room">
            {store.shortName}
            {numbers.length > 1 && ` listing ${numbers[i]!}`}: {variants} of {variantsMax} variants, {options} of{' '}
            {optionsMax} options.
          </p>
        ) : null,
      );
    return (
      <div key={store.id} className="mt-3 max-w-3xl border-l-[3px] border-stop pl-3 text-small" role="status">
        <p>
          <span className="font-semibold text-stop">stop</span> {limit.says}
        </p>
        <span className="flex gap-3 mt-1">
          {limit.dropColors.length > 0 && color && (
            <Button
              onClick={() =>
                edit(`Leave colors out of ${store.name}`, (d) => setOffered(d, store.id, keysOf(limit), false))
              }
            >
              Leave {namesOf(limit)} out of {store.shortName}
            </Button>
          )}
          {limit.dropColors.length > 0 && color && (
            <Button onClick={() => edit('Drop colors', (d) => setChosen(d, keysOf(limit), false))}>
              Drop {namesOf(limit)} everywhere
            </Button>
          )}
          {splitByColor({
            doc,
            blank: data.blank,
            storeId: store.id,
            demands: store.demands,
            shopName: store.shopName,
          }).map((fix) => (
            <Button key={fix.id} onClick={() => edit(`${fix.says} in ${store.name}`, (d) => fix.apply(d, 'store'))}>
              {fix.says}
            </Button>
          ))}
        </span>
      </div>
    );
  });
}
