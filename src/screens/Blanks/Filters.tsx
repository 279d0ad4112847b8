'use client';

import { useState, type ReactNode } from 'react';
import { countryName } from '@/core/country-names';
import { parseAmountMinor, formatAmount, money } from '@/core/pricing/money';
import { FAMILY_COLORS, type ColorFamily } from '@/core/catalog/family-colors';
import { EMPTY_QUERY, type ShelfQuery } from '@/core/catalog/shelf';
import { ownEntry } from '@/core/own-entry';
import { EntryField } from '@/ui/Field';
import type { Shelf } from './use-shelf';
import { facetChoices, techniqueName } from './view';

/** Choices of a group that are shown before it is opened. */
const SHOWN = 7;

type ListKey = 'techniques' | 'shipsFrom' | 'sizes' | 'families' | 'materials' | 'partners';

/** What the blanks are narrowed by; each choice says how many blanks it would leave. */
export function Filters({ shelf, currency }: { shelf: Shelf; currency: string }) {
  const { query, facets, change } = shelf;
  const toggle = (key: ListKey, value: string) =>
    change({ [key]: query[key].includes(value) ? query[key].filter((one) => one !== value) : [...query[key], value] });
  const list = (key: ListKey, values: Shelf['facets']['size'], nameOf: (value: string) => string = (v) => v) =>
    facetChoices(values, query[key], nameOf).map((choice) => ({ ...choice, toggle: () => toggle(key, choice.value) }));
  const amount = (name: string, key: 'landedMinMinor' | 'landedMaxMinor') => (
    <EntryField
      label={name}
      width="w-11"
      text={query[key] === null ? '' : formatAmount(money(query[key], currency))}
      read={(typed) => change({ [key]: typed.trim() === '' ? null : parseAmountMinor(typed, currency) })}
    />
  );
  return (
    <form aria-label="Filters" className="text-small" onSubmit={(e) => e.preventDefault()}>
      <Group name="Stock">
        <Choice
          name="in stock"
          count={facets.inStock}
          on={query.inStock}
          toggle={() => change({ inStock: !query.inStock })}
        />
      </Group>
      <Group name="Technique">
        <Choices choices={list('techniques', facets.technique, techniqueName)} />
      </Group>
      <Group name="Ships from">
        <Choices choices={list('shipsFrom', facets.shipsFrom, countryName)} />
      </Group>
      <Group name={`Landed cost, ${currency}`}>
        <div className="flex gap-3 py-0.5">
          {amount('from', 'landedMinMinor')}
          {amount('to', 'landedMaxMinor')}
        </div>
      </Group>
      <Group name="Color">
        <Choices
          choices={list('families', facets.family)}
          mark={(value) => {
            const hexes = FAMILY_COLORS[value as ColorFamily] ?? [];
            return (
              <span
                aria-hidden
                className="inline-block size-3 rounded-[2px] border border-ink/25"
                style={{ background: hexes[Math.floor(hexes.length / 2)] }}
              />
            );
          }}
        />
      </Group>
      <Group name="Size">
        <Choices choices={list('sizes', facets.size)} />
      </Group>
      <Group name="Material">
        <Choices choices={list('materials', facets.material)} />
      </Group>
      <Group name="Made within">
        <Steps
          of="making"
          values={facets.making}
          chosen={query.makingMax}
          nameOf={(n) => (n === 1 ? '1 day' : `${n} days`)}
          onChange={(makingMax) => change({ makingMax })}
        />
      </Group>
      <Group name="Print areas">
        <Steps
          of="areas"
          values={facets.areas}
          chosen={query.areasMin}
          nameOf={(n) => `${n} or more`}
          onChange={(areasMin) => change({ areasMin })}
        />
      </Group>
      <Group name="Print partner">
        <Choices choices={list('partners', facets.partner, (id) => ownEntry(shelf.partners, id) ?? id)} />
      </Group>
    </form>
  );
}

const {
  kind: _kind,
  country: _country,
  items: _items,
  sort: _sort,
  descending: _descending,
  offset: _offset,
  limit: _limit,
  ...nothing
} = EMPTY_QUERY;
/** What is asked when nothing is filtered; destination, category and sorting stay. */
export const UNFILTERED: Partial<ShelfQuery> = nothing;

function Group({ name, children }: { name: string; children: ReactNode }) {
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

function Choice({ name, count, on, toggle, mark }: ChoiceProps) {
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

function Choices({
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

function Steps({
  of,
  values,
  chosen,
  nameOf,
  onChange,
}: {
  of: string;
  values: Shelf['facets']['making'];
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
