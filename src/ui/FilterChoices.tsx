'use client';

import { useState, type ReactNode } from 'react';

/** Choices of a group that are shown before it is opened. */
const SHOWN = 7;

/** A heading with what is chosen under it. */
export function Group({ name, children }: { name: string; children: ReactNode }) {
  return (
    <fieldset className="min-w-0 border-t border-hairline pt-1.5 pb-2">
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
  /** What is counted: `blanks`. */
  readonly noun: string;
}

/** One choice to tick, with how many of what is filtered it would leave. */
export function Choice({ name, count, on, toggle, mark, noun }: ChoiceProps) {
  return (
    <label className={`flex items-center gap-1.5 min-h-6 ${count === 0 && !on ? 'text-muted' : ''}`}>
      <input type="checkbox" className="size-3.5 accent-primary" checked={on} onChange={toggle} />
      {mark}
      <span className="min-w-0 flex-1 truncate">{name}</span>
      <span className="text-tiny text-muted" aria-label={`${count} ${noun}`}>
        {count.toLocaleString('en')}
      </span>
    </label>
  );
}

/** A list of choices, the first few in view. */
export function Choices({
  choices,
  mark,
  noun,
}: {
  choices: readonly (Omit<ChoiceProps, 'noun'> & { value: string })[];
  noun: string;
  mark?: (value: string) => ReactNode;
}) {
  const [open, setOpen] = useState(false);
  // One more line than there would be under "more" is no saving.
  const cut = !open && choices.length > SHOWN + 1;
  const shown = cut ? choices.filter((choice, i) => i < SHOWN || choice.on) : choices;
  return (
    <>
      {shown.map((choice) => (
        <Choice key={choice.value} {...choice} mark={mark?.(choice.value)} noun={noun} />
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
