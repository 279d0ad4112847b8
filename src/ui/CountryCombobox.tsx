'use client';

import { Combobox, ComboboxButton, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { Check, ChevronDown } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { COUNTRY_FRAME, COUNTRY_INPUT, type CountryLook } from './country-look';

/** The list of a `CountryField`, focused from the first. */
export default function CountryCombobox({ label, value, choices, onChange }: CountryLook) {
  const [typed, setTyped] = useState('');
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => input.current?.focus(), []);
  const found = useMemo(() => {
    const wanted = typed.trim().toLocaleLowerCase('en');
    if (wanted === '') return choices;
    return choices.filter(
      (choice) => choice.value.toLowerCase() === wanted || choice.name.toLocaleLowerCase('en').includes(wanted),
    );
  }, [typed, choices]);
  return (
    <Combobox
      value={value}
      onChange={(chosen: string | null) => chosen && onChange(chosen)}
      onClose={() => setTyped('')}
      immediate
    >
      <span className={COUNTRY_FRAME}>
        <ComboboxInput
          aria-label={label}
          ref={input}
          className={COUNTRY_INPUT}
          displayValue={(code: string) => choices.find((choice) => choice.value === code)?.name ?? code}
          onFocus={(e) => e.currentTarget.select()}
          onChange={(e) => setTyped(e.target.value)}
        />
        <ComboboxButton aria-label={`${label}: list`} className="inline-grid size-6 place-items-center text-muted">
          <ChevronDown size={13} aria-hidden />
        </ComboboxButton>
      </span>
      <ComboboxOptions
        anchor="bottom start"
        className="z-50 max-h-80 min-w-52 overflow-auto rounded-paper border border-ink bg-sheet py-1 text-small outline-none"
      >
        {found.length === 0 && <p className="px-3 py-1 text-muted">No country has this in its name.</p>}
        {found.map((choice) => (
          <ComboboxOption
            key={choice.value}
            value={choice.value}
            className="flex items-center gap-2 px-3 py-1 data-[focus]:bg-selection cursor-pointer"
          >
            <span className="w-3.5">{choice.value === value && <Check size={13} aria-hidden />}</span>
            {choice.name}
          </ComboboxOption>
        ))}
      </ComboboxOptions>
    </Combobox>
  );
}
