'use client';

import { ChevronDown } from 'lucide-react';
import { lazy, Suspense, useState } from 'react';
import { SELECT_BUTTON, type Choice } from './choice';

const SelectList = lazy(() => import('./SelectList'));

/** A choice of one. `label` is its accessible name, shown before it unless `quiet`. The list itself is loaded when it is first opened. */
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
  const [opened, setOpened] = useState(false);
  const chosen = choices.find((choice) => choice.value === value);
  const name = `${label}: ${chosen?.name ?? ''}`;
  const closed = (
    <button
      type="button"
      aria-label={name}
      aria-haspopup="listbox"
      aria-expanded={false}
      className={SELECT_BUTTON}
      onPointerEnter={() => void import('./SelectList')}
      onFocus={() => void import('./SelectList')}
      onClick={() => setOpened(true)}
      onKeyDown={(e) => {
        if (e.key !== 'ArrowDown' && e.key !== 'ArrowUp') return;
        e.preventDefault();
        setOpened(true);
      }}
    >
      {chosen?.name ?? '–'}
      <ChevronDown size={13} aria-hidden />
    </button>
  );
  return (
    <span className="inline-flex items-baseline gap-1.5">
      {!quiet && <span className="text-small text-muted">{label}</span>}
      {opened ? (
        <Suspense fallback={closed}>
          <SelectList name={name} value={value} choices={choices} onChange={(next: string) => onChange(next as T)} />
        </Suspense>
      ) : (
        closed
      )}
    </span>
  );
}
