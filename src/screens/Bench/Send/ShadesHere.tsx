'use client';

import { chosenColors } from '@/core/document/chosen';
import { asSoldIn } from '@/core/document/offered';
import { nameColors } from '@/core/document/own-shades';
import { shadeAnswers, type ShadeAnswer } from '@/core/listing/shades';
import { ownEntry } from '@/core/own-entry';
import { count } from '@/core/words/count';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';

/** Why a color goes under that name. */
function reason({ chosenBy, shade, nearest }: ShadeAnswer): string {
  if (chosenBy === 'product') return 'chosen for this product';
  if (chosenBy === 'store') return 'chosen in the store’s settings';
  if (!nearest) return 'no swatch to go by';
  const differs = `differs by ${nearest.difference.toFixed(1)}`;
  return shade === null ? `nearest is ${nearest.name}, ${differs}` : `nearest, ${differs}`;
}

/** The shop's own names for the colors that are sold there, each with how it came about, to be changed for this product. */
export function ShadesHere({ storeId, name }: { storeId: string; name: string }) {
  const { doc, data, edit } = useDesk('doc', 'data', 'edit');
  const { demands, shades: store } = data.stores.find(({ id }) => id === storeId)!;
  const list = demands.shades ?? [];
  const sold = chosenColors(asSoldIn(doc, storeId), data.blank);
  const product = ownEntry(doc.shades, storeId);
  const colors = shadeAnswers(data.blank, list, { product, store }).filter(({ code }) => sold.includes(code));
  if (list.length === 0 || colors.length === 0) return null;
  const bare = colors.filter(({ shade }) => shade === null).length;
  const inherited = shadeAnswers(data.blank, list, { store });
  const choices = (code: string) => {
    const without = inherited.find((one) => one.code === code)?.shade ?? 'no name';
    return [
      { value: '', name: `${without} (as the store has it)` },
      ...list.map((shade) => ({ value: shade.name, name: shade.name })),
    ];
  };
  return (
    <details className="mt-3 text-small" open={bare > 0 || undefined}>
      <summary className="font-medium cursor-pointer">
        What {name} calls the colors ({bare > 0 ? `${bare} without a name` : count(colors.length, 'color')})
      </summary>
      <ul className="mt-1.5" aria-label={`What ${name} calls the colors`}>
        {colors.map((color) => (
          <li key={color.code} className="flex items-center gap-x-3 border-b border-hairline py-1">
            <Swatch hex={color.hex} />
            <span className="w-32 shrink-0">{color.name}</span>
            <span aria-hidden className="text-muted">
              →
            </span>
            <Swatch hex={list.find((shade) => shade.name === color.shade)?.hex ?? null} />
            <Select
              label={`Name of ${color.name} in ${name}`}
              quiet
              value={ownEntry(product, color.code) ?? ''}
              choices={choices(color.code)}
              onChange={(shade) =>
                edit(`Color name for ${name}`, (now) => nameColors(now, storeId, { [color.code]: shade || null }))
              }
            />
            <span className={color.shade === null ? 'text-stop' : 'text-muted'}>{reason(color)}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}

const Swatch = ({ hex }: { hex: string | null }) => (
  <span
    aria-hidden
    className="size-3.5 shrink-0 rounded-full border border-edge"
    style={{ background: hex ?? undefined }}
  />
);
