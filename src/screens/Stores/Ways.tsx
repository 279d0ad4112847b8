'use client';

import { SIZES_IN } from '@/core/catalog/size-guide';
import { minorDigits, parsePercentPpm } from '@/core/pricing/money';
import { endingStep, isEnding } from '@/core/pricing/rounding';
import type { StoreRule } from '@/core/pricing/store-rule';
import { LANGUAGES, languageName } from '@/core/words/languages';
import { call } from '@/ui/api';
import { EntryField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import type { StoreData } from './load';

interface WaysProps {
  readonly store: StoreData;
  readonly act: (work: () => Promise<unknown>) => Promise<void>;
}

type Change = Record<string, unknown>;
const changing =
  ({ store, act }: WaysProps) =>
  (change: Change) =>
    void act(() => call('PATCH', `/stores/${store.id}`, change));

/** How the store prices what has no prices of its own there. */
export function Pricing(props: WaysProps) {
  const { store } = props;
  const change = changing(props);
  const setSales = (typed: string) => {
    const expectedSales = Number(typed);
    if (!Number.isInteger(expectedSales) || expectedSales < 1) throw new Error('Type a whole number of 1 or more.');
    change({ expectedSales });
  };
  return (
    <section>
      <h2 className="font-display text-[17px] mb-1.5">How it is priced</h2>
      <div className="border-y border-hairline py-1.5">
        <Rule store={store} change={change} />
        <p className="my-1 text-muted">Products with prices of their own here keep them.</p>
        <EntryField
          label="A listing’s fee is spread over"
          text={String(store.expectedSales)}
          read={setSales}
          width="w-12"
        />{' '}
        <span className="text-muted">sales</span>
      </div>
    </section>
  );
}

type Way = 'plain' | 'difference' | 'margin' | 'markup';
const WAY_NAMES: Record<Way, string> = {
  plain: 'reach each product’s aims',
  difference: 'are those for all stores and',
  margin: 'reach a margin of',
  markup: 'reach a markup of',
};
const wayOf = ({ aim, differencePpm }: StoreRule): Way =>
  aim ? aim.kind : differencePpm === undefined ? 'plain' : 'difference';

/** A rule that says nothing is none. */
const keptRule = (rule: StoreRule): StoreRule | null => (Object.keys(rule).length > 0 ? rule : null);

function Rule({ store, change }: { store: StoreData; change: (change: Change) => void }) {
  const rule = store.priceRule ?? {};
  const { aim, differencePpm, ...rounding } = rule;
  const way = wayOf(rule);
  const set = (next: StoreRule) => change({ priceRule: keptRule(next) });
  const withPpm = (of: Way, ppm: number): StoreRule => {
    if (of === 'plain') return rounding;
    return of === 'difference' ? { ...rounding, differencePpm: ppm } : { ...rounding, aim: { kind: of, ppm } };
  };
  const ppm = aim?.ppm ?? differencePpm ?? 0;
  return (
    <div className="grid gap-1.5">
      <span className="flex flex-wrap items-baseline gap-2">
        <Select
          label="Prices"
          value={way}
          choices={(Object.keys(WAY_NAMES) as Way[]).map((value) => ({ value, name: WAY_NAMES[value] }))}
          onChange={(next) => set(withPpm(next, next === 'difference' ? 0 : next === 'margin' ? 400_000 : 1_000_000))}
        />
        {way !== 'plain' && (
          <EntryField
            label="Share"
            showLabel={false}
            width="w-16"
            text={`${ppm / 10_000} %`.replace('-', '−')}
            read={(typed) => set(withPpm(way, parsePercentPpm(typed.replace('−', '-'))))}
          />
        )}
      </span>
      <EntryField
        label="They end in"
        width="w-16"
        text={rule.ending ?? AS_EACH}
        read={(typed) => {
          const { ending: _ending, way: _way, ...rest } = rule;
          set(readEnding(typed, store.currency, rest));
        }}
      />
    </div>
  );
}

/** Shown where a store leaves it to each product. */
const AS_EACH = 'as each';

const OFFERED = new Map([
  [0, '80'],
  [2, '.99'],
  [3, '.990'],
]);

/** A rule with the ending that was typed; nothing typed: each product's own. Throws a sentence. */
function readEnding(typed: string, currency: string, rest: StoreRule): StoreRule {
  const ending = typed.trim().replace(',', '.');
  if (ending === '' || ending === AS_EACH) return rest;
  if (!isEnding(ending) || (ending !== 'none' && ending !== 'ladder' && !endingStep(ending, currency)))
    throw new Error(
      `Type up to four digits that a price in ${currency} can end in, such as ${OFFERED.get(minorDigits(currency)) ?? '.99'}; none, for any ending; or nothing.`,
    );
  return { ...rest, ending };
}

const SIZE_NAMES: Record<(typeof SIZES_IN)[number], string> = {
  cm: 'in cm, under the description',
  inches: 'in inches, under the description',
  both: 'in cm and inches, under the description',
};

/** How what is new goes there, and how its words tell sizes, in which language. */
export function Sending(props: WaysProps) {
  const { store } = props;
  const change = changing(props);
  return (
    <section>
      <h2 className="font-display text-[17px] mb-1.5">How it is sent</h2>
      <div className="grid gap-1.5 border-y border-hairline py-1.5">
        <Select
          label="New listings"
          value={store.sendsAs}
          choices={[
            { value: 'draft', name: 'as drafts' },
            { value: 'live', name: 'live' },
          ]}
          onChange={(sendsAs) => change({ sendsAs })}
        />
        <Select
          label="Sizes"
          value={store.sizesIn ?? ''}
          choices={[{ value: '', name: 'not told' }, ...SIZES_IN.map((value) => ({ value, name: SIZE_NAMES[value] }))]}
          onChange={(sizesIn) => change({ sizesIn: sizesIn || null })}
        />
        {store.squares && (
          <Select
            label="Square pictures"
            value={store.squares}
            choices={[
              { value: 'margin', name: 'with a margin of white' },
              { value: 'crop', name: 'cropped about the middle' },
            ]}
            onChange={(squares) => change({ squares: squares === 'margin' ? null : squares })}
          />
        )}
        <Select
          label="Its words are in"
          value={store.language ?? ''}
          choices={[
            { value: '', name: 'any language' },
            ...LANGUAGES.map((value) => ({ value: value as string, name: languageName(value) })),
          ]}
          onChange={(language) => change({ language: language || null })}
        />
      </div>
    </section>
  );
}
