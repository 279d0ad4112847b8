'use client';

import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react';
import { Check, ChevronDown } from 'lucide-react';
import { useState } from 'react';
import { FAMILIES, familyByCode, MOODS, type FontFamily } from '@/core/lettering/families';

const faceOf = ({ code }: FontFamily) => `typica-${code}`;
const asked = new Set<string>();

/** Loads the Latin letters of a family for the list; a family that does not come is shown in the letters of the page. */
function showInOwnLetters(family: FontFamily): void {
  if (asked.has(family.code)) return;
  asked.add(family.code);
  const face = new FontFace(faceOf(family), `url(/api/v1/fonts/${family.code}/latin.regular)`);
  face.load().then(
    (loaded) => document.fonts.add(loaded),
    () => asked.delete(family.code),
  );
}

/** The choice of a font: each family in its own letters, by what it is good for. */
export function FontPicker({ value, onChange }: { value: string; onChange: (code: string) => void }) {
  const chosen = familyByCode(value);
  const [opened, setOpened] = useState(false);
  const open = () => {
    FAMILIES.forEach(showInOwnLetters);
    setOpened(true);
  };
  return (
    <Listbox value={value} onChange={onChange}>
      <ListboxButton
        aria-label={`Font: ${chosen?.name ?? value}`}
        onFocus={open}
        onPointerEnter={open}
        className="flex min-h-7 w-full items-center justify-between gap-1 border-b border-edge text-left hover:border-muted"
      >
        <span
          className="truncate text-base"
          style={opened && chosen ? { fontFamily: `"${faceOf(chosen)}", var(--font-instrument)` } : undefined}
        >
          {chosen?.name ?? value}
        </span>
        <ChevronDown size={13} aria-hidden className="shrink-0" />
      </ListboxButton>
      <ListboxOptions
        anchor="bottom start"
        className="z-50 max-h-96! min-w-64 rounded-paper border border-ink bg-sheet py-1 outline-none"
      >
        {MOODS.map((mood) => (
          <div key={mood} role="group" aria-label={mood}>
            <div aria-hidden className="px-3 pt-2 pb-0.5 text-tiny text-muted">
              {mood}
            </div>
            {FAMILIES.filter((family) => family.mood === mood).map((family) => (
              <ListboxOption
                key={family.code}
                value={family.code}
                className="flex cursor-pointer items-center gap-2 px-3 py-0.5 data-[focus]:bg-selection"
              >
                <span className="w-3.5">{family.code === value && <Check size={13} aria-hidden />}</span>
                <span
                  className="text-[17px] leading-7"
                  style={{ fontFamily: `"${faceOf(family)}", var(--font-instrument)` }}
                >
                  {family.name}
                </span>
                {family.scripts.length > 1 && (
                  <span className="ml-auto pl-3 text-tiny text-muted">{family.scripts.join(', ')}</span>
                )}
              </ListboxOption>
            ))}
          </div>
        ))}
      </ListboxOptions>
    </Listbox>
  );
}
