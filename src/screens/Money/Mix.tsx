'use client';

import { Trash2 } from 'lucide-react';
import { countryName } from '@/core/country-names';
import { CountryField } from '@/ui/CountryField';
import { EntryField } from '@/ui/Field';
import { IconButton } from '@/ui/IconButton';
import { HEAD, LINE, type SectionProps } from './section';
import { mixShares } from './view';

/** Where the seller sells, and how much to each country. */
export function Mix({ data, settings, save }: SectionProps) {
  const { mix } = settings;
  const shares = mixShares(mix);
  const taken = mix.map(({ country }) => country);
  return (
    <section>
      <h2 className={HEAD}>Where you sell</h2>
      <p className="text-small text-muted mb-1.5">
        How often each destination comes, as whole numbers of any unit. Prices show what is left on the whole.
      </p>
      <ul className="border-t border-hairline text-small">
        {mix.map((part) => (
          <li key={part.country} className={LINE}>
            <span className="w-44">{countryName(part.country)}</span>
            <EntryField
              label={`How often to ${countryName(part.country)}`}
              showLabel={false}
              width="w-12"
              text={String(part.weight)}
              read={(typed) => {
                if (!/^\d{1,4}$/.test(typed.trim()) || Number(typed) < 1 || Number(typed) > 1000)
                  throw new Error('Type a whole number from 1 to 1000.');
                save({
                  ...settings,
                  mix: mix.map((one) => (one === part ? { ...one, weight: Number(typed) } : one)),
                });
              }}
            />
            <span className="text-muted">{shares.get(part.country)}</span>
            <IconButton
              name={`Remove ${countryName(part.country)}`}
              className="ml-auto"
              onClick={() => save({ ...settings, mix: mix.filter((one) => one !== part) })}
            >
              <Trash2 size={14} aria-hidden />
            </IconButton>
          </li>
        ))}
      </ul>
      <div className="mt-2">
        <CountryField
          key={mix.length}
          label="Add"
          value=""
          choices={data.countries.filter(({ value }) => !taken.includes(value))}
          onChange={(country) => save({ ...settings, mix: [...mix, { country, weight: 1 }] })}
        />
        {mix.length === 0 && (
          <span className="text-small text-muted ml-3">Now: {countryName(data.country)} alone.</span>
        )}
      </div>
    </section>
  );
}
