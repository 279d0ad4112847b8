'use client';

import { keysWith, setChosen } from '@/core/document/choosing';
import { colorOption, type OptionValue } from '@/core/catalog/blank';
import { formatAmount, money } from '@/core/pricing/money';
import { Swatch } from '@/ui/Mark';
import { useDesk } from '../desk';
import { Troubles } from './Troubles';

/** Colors down, sizes across: whole rows and columns, all, or single cells. */
export function VariantsPart() {
  const desk = useDesk();
  const { data, doc } = desk;
  const { blank, list } = data;
  const color = colorOption(blank);
  const columns = blank.options.find((option) => option !== color) ?? null;
  const rows: readonly (OptionValue | null)[] = color ? color.values : [null];
  const chosen = (keys: readonly string[]) => keys.filter((key) => key in doc.variants).length;
  const toggle = (label: string, keys: readonly string[]) =>
    desk.edit(label, (d) => setChosen(d, keys, chosen(keys) < keys.length));
  const values = (row: OptionValue | null, column: OptionValue | null) => ({
    ...(color && row ? { [color.code]: row.code } : {}),
    ...(columns && column ? { [columns.code]: column.code } : {}),
  });
  const all = keysWith(blank, {});
  return (
    <div className="px-7 py-5">
      <div className="flex items-baseline gap-5 mb-3">
        <h2 className="font-display text-[20px] font-semibold">{color ? 'Colors & sizes' : 'Sizes'}</h2>
        <span className="text-muted">
          {chosen(all)} of {all.length} variants
        </span>
        <button
          type="button"
          className="text-small text-primary underline"
          onClick={() => toggle('Choose all variants', all)}
        >
          {chosen(all) === all.length ? 'Drop all' : 'Choose all'}
        </button>
      </div>
      <Troubles />
      <table className="text-small">
        <thead>
          <tr className="border-y border-hairline">
            <th className="font-normal text-left text-muted py-1.5 pr-4">{color?.name ?? ''}</th>
            {columns?.values.map((column) => {
              const keys = keysWith(blank, values(null, column));
              return (
                <th key={column.code} className="font-normal px-1">
                  <button
                    type="button"
                    aria-label={`${column.name} in all colors`}
                    onClick={() => toggle(`Choose ${column.name}`, keys)}
                    className="w-full min-w-16 py-1 hover:bg-selection rounded-paper"
                  >
                    {column.name}
                  </button>
                </th>
              );
            })}
            <th className="font-normal text-muted pl-3 text-right">Chosen</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => {
            const rowKeys = keysWith(blank, values(row, null));
            return (
              <tr key={row?.code ?? 'only'} className="border-b border-hairline">
                <th className="font-normal text-left py-1 pr-4">
                  {row ? (
                    <button
                      type="button"
                      aria-label={`${row.name} in all sizes`}
                      onClick={() => toggle(`Choose ${row.name}`, rowKeys)}
                      className="inline-flex items-center gap-2 py-1 pr-3 whitespace-nowrap hover:bg-selection rounded-paper"
                    >
                      <Swatch hex={row.hex ?? '#fff'} name={row.name} size={18} />
                      {row.name}
                    </button>
                  ) : (
                    ''
                  )}
                </th>
                {(columns?.values ?? [null]).map((column) => (
                  <td key={column?.code ?? 'one'} className="px-1 py-1">
                    <Cell
                      row={row}
                      column={column}
                      values={values(row, column)}
                      cost={(key) =>
                        list.baseCostMinor[key] === undefined
                          ? ''
                          : formatAmount(money(list.baseCostMinor[key], list.currency))
                      }
                      onToggle={toggle}
                    />
                  </td>
                ))}
                <td className="pl-3 text-right text-muted whitespace-nowrap">
                  {chosen(rowKeys)} of {rowKeys.length}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="text-tiny text-muted mt-3">
        In each cell: the base cost in {list.currency}. A row’s or a column’s name chooses all of it.
      </p>
    </div>
  );
}

function Cell({
  row,
  column,
  values,
  cost,
  onToggle,
}: {
  row: OptionValue | null;
  column: OptionValue | null;
  values: { readonly [option: string]: string };
  cost: (key: string) => string;
  onToggle: (label: string, keys: readonly string[]) => void;
}) {
  const { data, doc, setColor } = useDesk();
  const variant = data.blank.variants.find((v) =>
    Object.entries(values).every(([code, value]) => v.values[code] === value),
  );
  if (!variant) return <span className="block text-center text-muted">–</span>;
  const on = variant.key in doc.variants;
  const name = [row?.name, column?.name].filter(Boolean).join(', ');
  const state = variant.ended ? 'ended' : variant.inStock ? '' : 'out of stock';
  return (
    <button
      type="button"
      role="checkbox"
      aria-checked={on}
      aria-label={`${name}${state ? `, ${state}` : ''}`}
      disabled={variant.ended && !on}
      onClick={() => {
        onToggle(`${on ? 'Drop' : 'Choose'} ${name}`, [variant.key]);
        if (row && !on) setColor(row.code);
      }}
      className={`w-full min-w-16 rounded-paper border px-2 py-1 text-center ${on ? 'bg-selection border-ink/40' : 'border-hairline bg-sheet hover:border-muted text-muted'}`}
    >
      <span aria-hidden>{on ? '✓ ' : ''}</span>
      {cost(variant.key)}
      {state && (
        <span className="block text-tiny text-caution" title={state}>
          {variant.ended ? 'ended' : 'out'}
        </span>
      )}
    </button>
  );
}
