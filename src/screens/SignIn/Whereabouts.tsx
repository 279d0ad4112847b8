'use client';

import { useMemo } from 'react';
import { currencyCodes } from '@/core/pricing/money';
import { CountryField } from '@/ui/CountryField';
import { Select } from '@/ui/Select';
import { allDestinations } from '../countries';
import { currencyOf } from './view';

export interface Place {
  readonly country: string;
  readonly currency: string;
}

/** The country of a business, and the currency of its sums: that of the country, until another one is chosen. */
export function Whereabouts({
  place,
  fault,
  onChange,
}: {
  place: Place;
  fault: string | null;
  onChange: (place: Place) => void;
}) {
  const countries = useMemo(() => allDestinations('GB'), []);
  const currencies = useMemo(() => currencyCodes().map((value) => ({ value, name: value })), []);
  const { country, currency } = place;
  return (
    <div>
      <div className="flex flex-wrap gap-6 pb-2">
        <CountryField
          label="Country"
          value={country}
          choices={countries}
          onChange={(next) =>
            onChange({ country: next, currency: currency === currencyOf(country) ? currencyOf(next) : currency })
          }
        />
        <Select
          label="Currency"
          value={currency}
          choices={currencies}
          onChange={(next) => onChange({ country, currency: next })}
        />
      </div>
      {fault && (
        <p role="alert" className="pb-2 text-tiny text-stop">
          {fault}
        </p>
      )}
    </div>
  );
}
