'use client';

import { countryName } from '@/core/country-names';
import { parseAmountMinor, formatAmount, money } from '@/core/pricing/money';
import { FAMILY_COLORS, type ColorFamily } from '@/core/catalog/family-colors';
import { EMPTY_QUERY, type ShelfQuery } from '@/core/shelf/shelf';
import { ownEntry } from '@/core/own-entry';
import { EntryField } from '@/ui/Field';
import { Choice as ChoiceOf, Choices as ChoicesOf, Group } from '@/ui/FilterChoices';
import { Steps } from './FilterFields';
import type { Shelf } from './use-shelf';
import { facetChoices, techniqueName } from './view';

type ListKey = 'techniques' | 'shipsFrom' | 'sizes' | 'families' | 'materials' | 'partners';

type OfBlanks<C extends (props: never) => unknown> = Omit<Parameters<C>[0], 'noun'>;
const Choice = (props: OfBlanks<typeof ChoiceOf>) => <ChoiceOf noun="blanks" {...props} />;
const Choices = (props: OfBlanks<typeof ChoicesOf>) => <ChoicesOf noun="blanks" {...props} />;

/** What the blanks are narrowed by; each choice says how many blanks it would leave. */
export function Filters({ shelf, currency }: { shelf: Shelf; currency: string }) {
  const { query, facets, change } = shelf;
  const toggle = (key: ListKey, value: string) =>
    change({ [key]: query[key].includes(value) ? query[key].filter((one) => one !== value) : [...query[key], value] });
  const list = (key: ListKey, values: Shelf['facets']['size'], nameOf: (value: string) => string = (v) => v) =>
    facetChoices(values, query[key], nameOf).map((choice) => ({ ...choice, toggle: () => toggle(key, choice.value) }));
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
      <Group name="Yours">
        <Choice
          name="favorites"
          count={facets.favorite}
          on={query.favorite}
          toggle={() => change({ favorite: !query.favorite })}
        />
        <Choice name="used by you" count={facets.used} on={query.used} toggle={() => change({ used: !query.used })} />
      </Group>
      <Group name="Technique">
        <Choices choices={list('techniques', facets.technique, techniqueName)} />
      </Group>
      <Group name="Ships from">
        <Choices choices={list('shipsFrom', facets.shipsFrom, countryName)} />
      </Group>
      <Group name={`Landed cost, ${currency}`}>
        <div className="flex gap-3 py-0.5">
          <Landed name="from" of="landedMinMinor" shelf={shelf} currency={currency} />
          <Landed name="to" of="landedMaxMinor" shelf={shelf} currency={currency} />
        </div>
      </Group>
      <Group name="Color">
        <Choices choices={list('families', facets.family)} mark={(value) => <FamilyMark family={value} />} />
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

function FamilyMark({ family }: { family: string }) {
  const hexes = FAMILY_COLORS[family as ColorFamily] ?? [];
  return (
    <span
      aria-hidden
      className="inline-block size-3 rounded-[2px] border border-ink/25"
      style={{ background: hexes[Math.floor(hexes.length / 2)] }}
    />
  );
}

interface LandedProps {
  readonly name: string;
  readonly of: 'landedMinMinor' | 'landedMaxMinor';
  readonly shelf: Shelf;
  readonly currency: string;
}

function Landed({ name, of, shelf: { query, change }, currency }: LandedProps) {
  return (
    <EntryField
      label={name}
      width="w-11"
      text={query[of] === null ? '' : formatAmount(money(query[of], currency))}
      read={(typed) => change({ [of]: typed.trim() === '' ? null : parseAmountMinor(typed, currency) })}
    />
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
