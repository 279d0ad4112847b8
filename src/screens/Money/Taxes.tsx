'use client';

import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { countryName } from '@/core/country-names';
import { TAX_CLASSES, type GoodClass, type Tax, type TaxClass } from '@/core/pricing/tax';
import { Button } from '@/ui/Button';
import { CountryField } from '@/ui/CountryField';
import { EntryField } from '@/ui/Field';
import { IconButton } from '@/ui/IconButton';
import { Select } from '@/ui/Select';
import { HEAD, LINE, readDay, readPercent, withPart, type SectionProps } from './section';

const placeName = (place: string): string => (place === '*' ? 'All others' : countryName(place));
const CLASSES = TAX_CLASSES.map((value) => ({ value, name: value }));

/** Taxes by country, state, class of good and first day, and which kinds of goods are in which class. */
export function Taxes({ data, settings, save }: SectionProps) {
  const { taxes, goods } = settings;
  const [state, setState] = useState('');
  const keep = (next: readonly Tax[]) => save({ ...settings, taxes: next });
  const add = (country: string, also: Partial<Tax> = {}) =>
    keep([...taxes, { country, label: 'VAT', ratePpm: 200_000, inside: true, ...also }]);
  return (
    <section className="col-span-full">
      <h2 className={HEAD}>Taxes by destination</h2>
      <ul className="border-t border-hairline text-small">
        {taxes.map((tax, i) => (
          <TaxLine
            key={`${tax.country}${i}`}
            tax={tax}
            put={(next) => keep(taxes.map((one) => (one === tax ? next : one)))}
            drop={() => keep(taxes.filter((one) => one !== tax))}
            again={() => keep([...taxes.slice(0, i + 1), { ...tax, taxClass: 'reduced' }, ...taxes.slice(i + 1)])}
          />
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap items-baseline gap-x-5 gap-y-2">
        <CountryField
          key={taxes.length}
          label="Add a tax for"
          value=""
          choices={[
            ...(taxes.some(({ country }) => country === '*') ? [] : [{ value: '*', name: 'All others' }]),
            ...data.countries.filter(({ value }) => taxes.every(({ country }) => country !== value)),
          ]}
          onChange={(country) => add(country)}
        />
        <form
          className="inline-flex items-baseline gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            add(state.trim().toUpperCase(), { label: 'Sales tax', ratePpm: 70_000, inside: false });
            setState('');
          }}
        >
          <label className="text-small text-muted">
            or a state{' '}
            <input
              value={state}
              maxLength={6}
              placeholder="US-CA"
              onChange={(e) => setState(e.target.value)}
              className="w-16 border-b border-edge bg-transparent font-mono text-small text-ink"
            />
          </label>
          <Button type="submit" disabled={!/^[a-z]{2}-[a-z0-9]{1,3}$/i.test(state.trim())}>
            Add
          </Button>
        </form>
      </div>
      <Goods
        kinds={data.kinds}
        goods={goods}
        countries={data.countries}
        keep={(next) => save({ ...settings, goods: next })}
      />
    </section>
  );
}

function TaxLine({
  tax,
  put,
  drop,
  again,
}: {
  tax: Tax;
  put: (next: Tax) => void;
  drop: () => void;
  again: () => void;
}) {
  const where = placeName(tax.country);
  return (
    <li className={LINE}>
      <span className="w-44">{where}</span>
      <EntryField
        label={`Name of the tax for ${where}`}
        showLabel={false}
        align="left"
        width="w-24"
        text={tax.label}
        read={(typed) => put({ ...tax, label: typed.trim().slice(0, 60) })}
      />
      <span>
        <EntryField
          label={`Rate for ${where}`}
          showLabel={false}
          width="w-14"
          text={String(tax.ratePpm / 10_000)}
          read={(typed) => put({ ...tax, ratePpm: readPercent(typed, 0, 1_000_000) })}
        />{' '}
        %
      </span>
      <Select
        label={`Tax for ${where}`}
        quiet
        value={tax.inside ? 'inside' : 'on-top'}
        choices={[
          { value: 'inside', name: 'within the price, you hand it on' },
          { value: 'on-top', name: 'on top, the shop takes it' },
        ]}
        onChange={(way) => put({ ...tax, inside: way === 'inside' })}
      />
      <Select
        label="for goods"
        value={tax.taxClass ?? 'standard'}
        choices={CLASSES}
        onChange={(taxClass) => put(withPart(tax, 'taxClass', taxClass === 'standard' ? undefined : taxClass))}
      />
      <EntryField
        label="from"
        align="left"
        width="w-24"
        text={tax.firstDay ?? 'always'}
        read={(typed) => put(withPart(tax, 'firstDay', readDay(typed)))}
      />
      <span className="ml-auto inline-flex items-baseline gap-2">
        <Button kind="quiet" onClick={again}>
          Another class or day
        </Button>
        <IconButton name={`Remove the tax for ${where}`} onClick={drop}>
          <Trash2 size={14} aria-hidden />
        </IconButton>
      </span>
    </li>
  );
}

/** Kinds of goods that are not taxed as standard, everywhere or in one country. */
function Goods({
  kinds,
  goods,
  countries,
  keep,
}: {
  kinds: readonly string[];
  goods: readonly GoodClass[];
  countries: readonly { readonly value: string; readonly name: string }[];
  keep: (next: readonly GoodClass[]) => void;
}) {
  const put = (good: GoodClass, part: Partial<GoodClass>) =>
    keep(goods.map((one) => (one === good ? { ...one, ...part } : one)));
  return (
    <div className="mt-3 text-small">
      <p className="text-muted">
        Every kind of good is taxed as standard, but for these. A class that a country does not name is taxed as
        standard there; class zero is not taxed.
      </p>
      <ul>
        {goods.map((good, i) => (
          <li key={i} className={LINE}>
            <span className="w-44">{good.kind}</span>
            <Select
              label="in"
              value={good.country}
              choices={[{ value: '*', name: 'every country' }, ...countries]}
              onChange={(country) => put(good, { country })}
            />
            <Select
              label="is"
              value={good.taxClass}
              choices={CLASSES}
              onChange={(taxClass: TaxClass) => put(good, { taxClass })}
            />
            <IconButton
              name={`Remove ${good.kind}`}
              className="ml-auto"
              onClick={() => keep(goods.filter((one) => one !== good))}
            >
              <Trash2 size={14} aria-hidden />
            </IconButton>
          </li>
        ))}
      </ul>
      <div className="mt-2">
        <Select
          label="Add a kind of good"
          value=""
          choices={kinds.map((kind) => ({ value: kind, name: kind }))}
          onChange={(kind) => keep([...goods, { kind, country: '*', taxClass: 'reduced' }])}
        />
      </div>
    </div>
  );
}
