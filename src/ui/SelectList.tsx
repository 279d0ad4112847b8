'use client';

import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react';
import { Check, ChevronDown } from 'lucide-react';
import { useOpenAtOnce } from './open-at-once';
import { SELECT_BUTTON, type Choice } from './choice';

/** The list of a `Select`, open from the first. */
export default function SelectList({
  name,
  value,
  choices,
  onChange,
}: {
  name: string;
  value: string;
  choices: readonly Choice<string>[];
  onChange: (value: string) => void;
}) {
  const button = useOpenAtOnce();
  return (
    <Listbox value={value} onChange={onChange}>
      <ListboxButton ref={button} aria-label={name} className={SELECT_BUTTON}>
        {choices.find((choice) => choice.value === value)?.name ?? '–'}
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
  );
}
