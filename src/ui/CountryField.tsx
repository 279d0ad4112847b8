'use client';

import { Combobox, ComboboxButton, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/react';
import { Check, ChevronDown } from 'lucide-react';
import { useMemo, useState } from 'react';

/** A country, chosen from a list that is narrowed by typing its name or its two letters. */
export function CountryField({
  label,
  value,
  choices,
  onChange,
  showLabel = true,
}: {
  label: string;
  /** ISO 3166 alpha-2. */
  value: string;
  choices: readonly { readonly value: string; readonly name: string }[];
  onChange: (value: string) => void;
  showLabel?: boolean;
}) {
  const [typed, setTyped] = useState('');
  const found = useMemo(() => {
    const wanted = typed.trim().toLocaleLowerCase('en');
    if (wanted === '') return choices;
    return choices.filter(
      (choice) => choice.value.toLowerCase() === wanted || choice.name.toLocaleLowerCase('en').includes(wanted),
    );
  }, [typed, choices]);
  return (
    <span className="inline-flex items-baseline gap-1.5">
      {showLabel && <span className="text-small text-muted">{label}</span>}
      <Combobox
        value={value}
        onChange={(chosen: string | null) => chosen && onChange(chosen)}
        onClose={() => setTyped('')}
        immediate
      >
        <span className="inline-flex items-center border-b border-edge hover:border-muted focus-within:border-primary">
          <ComboboxInput
            aria-label={label}
            className="w-36 min-h-6 bg-transparent text-small px-0.5"
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
    </span>
  );
}
