'use client';

import { ChevronDown } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { COUNTRY_FRAME, COUNTRY_INPUT, type CountryLook } from './country-look';

const CountryCombobox = lazy(() => import('./CountryCombobox'));

/**
 * A country, chosen from a list that is narrowed by typing its name or its two letters. The list is loaded when the field is first entered.
 */
export function CountryField({ showLabel = true, ...look }: CountryLook & { showLabel?: boolean }) {
  const [entered, setEntered] = useState(false);
  const { label, value, choices } = look;
  const resting = (
    <span className={COUNTRY_FRAME}>
      <input
        role="combobox"
        aria-label={label}
        aria-expanded={false}
        aria-controls=""
        readOnly
        className={COUNTRY_INPUT}
        value={choices.find((choice) => choice.value === value)?.name ?? value}
        onPointerEnter={() => void import('./CountryCombobox')}
        onFocus={() => setEntered(true)}
      />
      <span className="inline-grid size-6 place-items-center text-muted">
        <ChevronDown size={13} aria-hidden />
      </span>
    </span>
  );
  return (
    <span className="inline-flex items-baseline gap-1.5">
      {showLabel && <span className="text-small text-muted">{label}</span>}
      {entered ? (
        <Suspense fallback={resting}>
          <CountryCombobox {...look} />
        </Suspense>
      ) : (
        resting
      )}
    </span>
  );
}
