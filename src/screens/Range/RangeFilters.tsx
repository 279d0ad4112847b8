'use client';

import type { ComponentProps } from 'react';
import { isWhole, ppmOfPercent, WHOLE_RANGE, type RangeList } from '@/core/range';
import { SYNC_MARKS, SYNC_STATES, type SyncState } from '@/core/sync/state';
import { Button } from '@/ui/Button';
import { EntryField } from '@/ui/Field';
import { Choice, Choices, Group } from '@/ui/FilterChoices';
import type { RangeStore } from './load';
import type { RangeState } from './use-range';
import { plainName } from './view';

const NOUN = 'products';

interface Counted {
  readonly value: string;
  readonly n: number;
}

interface ListOf {
  readonly name: string;
  readonly choices: ComponentProps<typeof Choices>['choices'];
}

/** The lists that a range is filtered by, each value with how many products it would leave; empty ones are left out. */
function listsOf({ query: { filter }, counts, change }: RangeState, stores: readonly RangeStore[]): ListOf[] {
  const toggle = (key: RangeList, value: string) => {
    const on = filter[key] as readonly string[];
    change({ [key]: on.includes(value) ? on.filter((one) => one !== value) : [...on, value] });
  };
  // What is chosen stays in the list, with none where nothing is found by it.
  const list = (name: string, key: RangeList, values: readonly Counted[], nameOf: (value: string) => string) => {
    const on = filter[key] as readonly string[];
    const none = on.filter((value) => !values.some((one) => one.value === value)).map((value) => ({ value, n: 0 }));
    const choices = [...values, ...none].map(({ value, n }) => ({
      value,
      name: nameOf(value),
      count: n,
      on: on.includes(value),
      toggle: () => toggle(key, value),
    }));
    return { name, choices };
  };
  const all = (values: readonly string[], known: readonly Counted[]) =>
    values.map((value) => known.find((one) => one.value === value) ?? { value, n: 0 });
  const storeNames = new Map(stores.map(({ id, name }) => [id, name]));
  const partnerNames = new Map(counts.partners.map(({ value, name }) => [value, name]));
  const itself = (value: string) => value;
  const stateName = (value: string) => SYNC_MARKS[value as SyncState].word;
  return [
    list('State', 'states', all(SYNC_STATES, counts.states), stateName),
    list('Store', 'stores', all([...storeNames.keys()], counts.stores), (id) => storeNames.get(id) ?? id),
    list('Rule broken', 'rules', counts.rules, plainName),
    list('Found in the design', 'findings', counts.findings, plainName),
    list('Print partner', 'partners', counts.partners, (id) => partnerNames.get(id) ?? id),
    list('Kind of good', 'kinds', counts.kinds, plainName),
    list('Tag of artwork', 'tags', counts.tags, itself),
  ].filter(({ choices }) => choices.length > 0);
}

/** What the range is narrowed by; each choice says how many products it would leave. */
export function RangeFilters({ range, stores }: { range: RangeState; stores: readonly RangeStore[] }) {
  const { query, counts, change } = range;
  const { filter } = query;
  const groups = listsOf(range, stores);
  return (
    <form aria-label="Filters" className="text-small" onSubmit={(event) => event.preventDefault()}>
      {groups.slice(0, 2).map(({ name, choices }) => (
        <Group key={name} name={name}>
          <Choices noun={NOUN} choices={choices} />
        </Group>
      ))}
      <Group name="Money">
        <Choice
          noun={NOUN}
          name="sold at a loss"
          count={counts.underFloor}
          on={filter.underFloor}
          toggle={() => change({ underFloor: !filter.underFloor })}
        />
        <EntryField
          label="margin below, %"
          width="w-12"
          text={filter.marginBelowPpm === null ? '' : String(filter.marginBelowPpm / 10_000)}
          read={(typed) => {
            const text = typed.trim();
            const ppm = ppmOfPercent(text === '' ? null : text);
            if (text !== '' && ppm === null) throw new Error('Type percent, such as 20 or 12.5.');
            change({ marginBelowPpm: ppm });
          }}
        />
      </Group>
      {groups.slice(2).map(({ name, choices }) => (
        <Group key={name} name={name}>
          <Choices noun={NOUN} choices={choices} />
        </Group>
      ))}
      <Group name="Changed since">
        <input
          type="date"
          aria-label="Changed since"
          className="w-full rounded-paper border border-edge bg-sheet px-1.5 py-1"
          value={filter.changedSince ?? ''}
          onChange={(event) => change({ changedSince: event.target.value === '' ? null : event.target.value })}
        />
      </Group>
      {!isWhole(filter) && (
        <p className="border-t border-hairline pt-2">
          <Button kind="quiet" onClick={() => change(WHOLE_RANGE)}>
            Clear all filters
          </Button>
        </p>
      )}
    </form>
  );
}
