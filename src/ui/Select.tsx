'use client';

import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react';
import { Check, ChevronDown } from 'lucide-react';

export interface Choice<T extends string> {
  readonly value: T;
  readonly name: string;
}

/** A choice of one. `label` is its accessible name, shown before it unless `quiet`. */
export function Select<T extends string>({
  label,
  value,
  choices,
  onChange,
  quiet = false,
}: {
  label: string;
  value: T;
  choices: readonly Choice<T>[];
  onChange: (value: T) => void;
  quiet?: boolean;
}) {
  const chosen = choices.find((choice) => choice.value === value);
  return (
    <span className="inline-flex items-baseline gap-1.5">
      {!quiet && <span className="text-small text-muted">{label}</span>}
      <Listbox value={value} onChange={onChange}>
        <ListboxButton
          aria-label={`${label}: ${chosen?.name ?? ''}`}
          className="inline-flex items-center gap-1 min-h-6 text-left text-small leading-tight border-b border-edge hover:border-muted"
        >
          {chosen?.name ?? '–'}
          <ChevronDown size={13} aria-hidden />
        </ListboxButton>
        <ListboxOptions
          anchor="bottom start"
          className="z-50 min-w-40 rounded-paper border border-ink bg-sheet py-1 text-small outline-none"
        >
          {choices.map((choice) => (
            <ListboxOption
              key={choice.value}
              value={choice.value}
              className="flex items-center gap-2 px-3 py-1 data-[focus]:bg-selection cursor-pointer"
            >
              <span className="w-3.5">{choice.value === value && <Check size={13} aria-hidden />}</span>
              {choice.name}
            </ListboxOption>
          ))}
        </ListboxOptions>
      </Listbox>
    </span>
  );
}
