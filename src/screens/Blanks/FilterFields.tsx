'use client';

import type { FacetValue } from '@/core/shelf/shelf';
import { facetChoices } from './view';

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
