'use client';

import { useState, type ReactNode } from 'react';
import type { FacetValue } from '@/core/shelf/shelf';
import { facetChoices } from './view';

/** Choices of a group that are shown before it is opened. */
const SHOWN = 7;

/** A heading with what is chosen under it. */
export function Group({ name, children }: { name: string; children: ReactNode }) {
  return (
    <fieldset className="border-t border-hairline pt-1.5 pb-2">
      <legend className="float-left w-full font-display text-[14px] pb-0.5">{name}</legend>
      <div className="clear-both">{children}</div>
    </fieldset>
  );
}

interface ChoiceProps {
  readonly name: string;
  readonly count: number;
  readonly on: boolean;
  readonly toggle: () => void;
  readonly mark?: ReactNode;
}

/** One choice to tick, with how many blanks it would leave. */
export function Choice({ name, count, on, toggle, mark }: ChoiceProps) {
  return (
    <label className={`flex items-center gap-1.5 min-h-6 ${count === 0 && !on ? 'text-muted' : ''}`}>
      <input type="checkbox" className="size-3.5 accent-primary" checked={on} onChange={toggle} />
      {mark}
      <span className="min-w-0 flex-1 truncate">{name}</span>
      <span className="text-tiny text-muted" aria-label={`${count} blanks`}>
        {count}
      </span>
    </label>
  );
}

/** A list of choices, the first few in view. */
export function Choices({
  choices,
  mark,
}: {
  choices: readonly (ChoiceProps & { value: string })[];
  mark?: (value: string) => ReactNode;
}) {
  const [open, setOpen] = useState(false);
  // One more line than there would be under "more" is no saving.
  const cut = !open && choices.length > SHOWN + 1;
  const shown = cut ? choices.filter((choice, i) => i < SHOWN || choice.on) : choices;
  return (
    <>
      {shown.map((choice) => (
        <Choice key={choice.value} {...choice} mark={mark?.(choice.value)} />
      ))}
      {choices.length > SHOWN + 1 && (
        <button
          type="button"
          className="min-h-6 text-tiny text-primary underline underline-offset-2"
          onClick={() => setOpen(!open)}
        >
          {cut ? `${choices.length - shown.length} more` : 'fewer'}
        </button>
      )}
    </>
  );
}

/** One of several steps, or any. */
export function Steps({
  of,
  values,
  chosen,
  nameOf,
  onChange,
}: {
  of: string;
  values: readonly FacetValue[];
  chosen: number | null;
  nameOf: (n: number) => string;
  onChange: (value: number | null) => void;
}) {
  const steps = facetChoices(values, chosen === null ? [] : [String(chosen)], (v) => nameOf(Number(v)));
  return (
    <>
      {[{ value: '', name: 'any', count: null, on: chosen === null }, ...steps].map((step) => (
        <label key={step.value} className="flex items-center gap-1.5 min-h-6">
          <input
            type="radio"
            name={of}
            className="size-3.5 accent-primary"
            checked={step.on}
            onChange={() => onChange(step.value === '' ? null : Number(step.value))}
          />
          <span className="flex-1">{step.name}</span>
          {step.count !== null && (
            <span className="text-tiny text-muted" aria-label={`${step.count} blanks`}>
              {step.count}
            </span>
          )}
        </label>
      ))}
    </>
  );
}
