'use client';

import { useRouter } from 'next/navigation';
import { toast } from '@/ui/toast';
import { colorOption } from '@/core/catalog/blank';
import { keysWith, setChosen } from '@/core/document/choosing';
import { asSoldIn, setOffered } from '@/core/document/offered';
import { storeLimit, type StoreLimit } from '@/core/variants/limits';
import { ownEntry } from '@/core/own-entry';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { useDesk } from '../desk';

/** What stores cannot hold of what is chosen, as one chooses, with ways out. */
export function StoreLimits() {
  const { data, doc, edit, session } = useDesk('data', 'doc', 'edit', 'session');
  const router = useRouter();
  const color = colorOption(data.blank);
  const split = async (keys: readonly string[]) => {
    try {
      await session.flush();
      const names = [
        ...new Set(keys.map((key) => ownEntry(data.blank.variants.find((v) => v.key === key)?.values, color!.code))),
      ]
        .map((code) => color!.values.find((value) => value.code === code)?.name)
        .filter(Boolean);
      const { second } = await call<{ second: { id: string; title: string } }>(
        'POST',
        `/products/${data.product.id}/split`,
        {
          variantKeys: keys,
          title: `${doc.words.base.title} (${names.length > 3 ? `${names[0]} to ${names.at(-1)}` : names.join(', ')})`,
        },
      );
      toast(`“${second.title}” is a product of its own now, with the same design, prices and words.`, {
        action: { label: 'Open it', onClick: () => router.push(`/products/${second.id}`) },
        duration: 12_000,
      });
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const keysOf = ({ dropColors }: StoreLimit) =>
    dropColors.flatMap(({ code }) => keysWith(data.blank, { [color!.code]: code }));
  const namesOf = ({ dropColors }: StoreLimit) => dropColors.map(({ name }) => name).join(', ');
  return data.stores.map((store) => {
    const limit = storeLimit(asSoldIn(doc, store.id), data.blank, store.demands, store.channelName);
    if (!limit.says)
      return limit.variants > 0 ? (
        <p key={store.id} className="text-tiny text-muted mt-1" data-testid="store-room">
          {store.shortName}: {limit.variants} of {limit.variantsMax} variants, {limit.options} of {limit.optionsMax}{' '}
          options.
        </p>
      ) : null;
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
          {limit.split.length > 0 && (
            <Button onClick={() => void split(limit.split)}>
              Split into two listings by color ({limit.variants - limit.split.length} and {limit.split.length})
            </Button>
          )}
        </span>
      </div>
    );
  });
}
