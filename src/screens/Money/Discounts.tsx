'use client';

import { ownEntry } from '@/core/own-entry';
import { EntryField } from '@/ui/Field';
import { HEAD, LINE, readPercent, type SectionProps } from './section';

/** What partners take off their costs for this seller. */
export function Discounts({ data, settings, save }: SectionProps) {
  const { discounts } = settings;
  return (
    <section>
      <h2 className={HEAD}>What partners take off for you</h2>
      <ul className="border-t border-hairline text-small">
        {data.partners.map((partner) => (
          <li key={partner.id} className={LINE}>
            <span className="w-44">{partner.name}</span>
            <EntryField
              label={`Discount of ${partner.name}`}
              showLabel={false}
              width="w-14"
              text={String((ownEntry(discounts, partner.id) ?? 0) / 10_000)}
              read={(typed) => {
                const ppm = readPercent(typed, 0, 900_000);
                const { [partner.id]: _before, ...rest } = discounts;
                save({ ...settings, discounts: ppm === 0 ? rest : { ...rest, [partner.id]: ppm } });
              }}
            />
            <span className="text-muted">% of all making, in every landed cost</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
