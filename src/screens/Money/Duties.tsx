'use client';

import { Trash2 } from 'lucide-react';
import { countryName } from '@/core/country-names';
import { formatAmount, money, parseAmountMinor } from '@/core/pricing/money';
import { EU_DUTY, type Duty } from '@/core/pricing/own-costs';
import { Button } from '@/ui/Button';
import { CountryField } from '@/ui/CountryField';
import { EntryField } from '@/ui/Field';
import { IconButton } from '@/ui/IconButton';
import { HEAD, LINE, readDay, readPercent, withPart, type SectionProps } from './section';

/** What is taken of goods that come from elsewhere, from which value on. Nothing within one customs union. */
export function Duties({ data, settings, save }: SectionProps) {
  const { duties } = settings;
  const keep = (next: readonly Duty[]) => save({ ...settings, duties: next });
  const put = (duty: Duty, next: Duty) => keep(duties.map((one) => (one === duty ? next : one)));
  return (
    <section className="col-span-full">
      <h2 className={HEAD}>Duty that you pay</h2>
      <ul className="border-t border-hairline text-small">
        {duties.map((duty, i) => {
          const where = countryName(duty.country);
          return (
            <li key={i} className={LINE}>
              <span className="w-44">{where}</span>
              <span>
                <EntryField
                  label={`Duty of ${where}`}
                  showLabel={false}
                  width="w-14"
                  text={String(duty.ratePpm / 10_000)}
                  read={(typed) => put(duty, { ...duty, ratePpm: readPercent(typed, 0, 990_000) })}
                />{' '}
                % of the items
              </span>
              <EntryField
                label={`where they cost more than, ${duty.currency}`}
                width="w-20"
                text={formatAmount(money(duty.overMinor, duty.currency))}
                read={(typed) => put(duty, { ...duty, overMinor: parseAmountMinor(typed, duty.currency) })}
              />
              <EntryField
                label="from"
                align="left"
                width="w-24"
                text={duty.firstDay ?? 'always'}
                read={(typed) => put(duty, withPart(duty, 'firstDay', readDay(typed)))}
              />
              <IconButton
                name={`Remove the duty of ${where}`}
                className="ml-auto"
                onClick={() => keep(duties.filter((one) => one !== duty))}
              >
                <Trash2 size={14} aria-hidden />
              </IconButton>
            </li>
          );
        })}
      </ul>
      <div className="mt-2 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <CountryField
          key={duties.length}
          label="Add duty into"
          value=""
          choices={data.countries}
          onChange={(country) =>
            keep([
              ...duties,
              {
                country,
                label: `Duty into ${countryName(country)}`,
                ratePpm: 100_000,
                overMinor: 0,
                currency: data.currency,
              },
            ])
          }
        />
        {duties.every(({ country }) => country !== 'EU') && (
          <Button kind="quiet" onClick={() => keep([...duties, EU_DUTY])}>
            European Union, from 150 EUR
          </Button>
        )}
        <span className="text-tiny text-muted">
          For the EU: Council Regulation (EC) No 1186/2009, article 23; 12 % is the rate of most garments. Look whether
          both still hold for your goods.
        </span>
      </div>
    </section>
  );
}
