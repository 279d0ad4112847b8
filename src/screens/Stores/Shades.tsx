'use client';

import { ownEntry } from '@/core/own-entry';
import { Select } from '@/ui/Select';
import { answering, type AskedProps } from './Asked';

/** The shop's own name for each color: the nearest that looks like it, unless the seller chose another. */
export function Shades(props: AskedProps) {
  const { colors, shades } = props.store.asks;
  const answer = answering(props);
  if (colors.length === 0) return null;
  const own = props.store.answers.shades ?? {};
  const chosen = Object.keys(own).length;
  const bare = colors.filter(({ code, nearest }) => nearest === null && ownEntry(own, code) === undefined).length;
  return (
    <details className="mt-8 text-small">
      <summary className="cursor-pointer">
        <h2 className="inline font-display text-[17px]">Colors in the shop’s own names</h2>{' '}
        <span className="text-muted">
          {colors.length} colors, {chosen} chosen by you{bare > 0 && `, ${bare} without a name that looks like it`}
        </span>
      </summary>
      <ul className="mt-1.5 grid grid-cols-2 gap-x-8 border-t border-hairline">
        {colors.map(({ code, name, hex, nearest }) => (
          <li key={code} className="flex items-baseline gap-2 border-b border-hairline py-1">
            <span
              aria-hidden
              className="size-3 shrink-0 self-center rounded-full border border-edge"
              style={{ background: hex }}
            />
            <span className="min-w-0 flex-1">{name}</span>
            <Select
              label={`Name of ${name} in the shop`}
              quiet
              value={ownEntry(own, code) ?? ''}
              choices={[
                { value: '', name: nearest ? `${nearest} (nearest)` : 'none looks like it' },
                ...shades.map((shade) => ({ value: shade, name: shade })),
              ]}
              onChange={(shade) => answer({ shades: { [code]: shade || null } })}
            />
          </li>
        ))}
      </ul>
    </details>
  );
}
