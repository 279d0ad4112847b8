'use client';

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from '@/ui/toast';
import { raisePrices, roundPrices } from '@/core/pricing/fixing';
import { formatPercent, parsePercentPpm } from '@/core/pricing/money';
import { roundingFor } from '@/core/pricing/plan';
import { ruleOf, withRule, type PriceRule } from '@/core/pricing/rule';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import { Button } from '@/ui/Button';
import { EntryField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import { usePrices } from './priced';
import type { BenchStore } from '../load';

const ENDING_WORDS = new Map([
  ['none', 'an ending'],
  ['ladder', 'your ladder'],
]);

interface KeptRule {
  readonly id: string;
  readonly name: string;
  readonly rule: PriceRule;
  readonly forNew: boolean;
}

/** What is done to many prices at once: raised, rounded, priced by a rule that was kept. */
export function PriceTools({ store, selected }: { store: BenchStore | null; selected: ReadonlySet<string> }) {
  const desk = useDesk('doc', 'edit');
  const { priced, world } = usePrices().pricesAt(store);
  const storeId = store?.id ?? null;
  const { currency } = world.outlet;
  const wanted = selected.size > 0 ? priced.filter(({ key }) => selected.has(key)) : priced;
  const rounding = roundingFor(desk.doc, world);
  const { ending, way } = rounding;
  const of = selected.size > 0 ? `${wanted.length} selected` : 'all prices';
  return (
    <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2 mt-3 text-small">
      <EntryField
        label={`Raise ${of} by`}
        text=""
        width="w-14"
        read={(typed) => {
          if (typed.trim() === '') return;
          const ppm = parsePercentPpm(typed.replace('−', '-'));
          if (ppm <= -1_000_000 || ppm > 10_000_000) throw new Error('From −99 % to 1,000 % can be added to a price.');
          desk.edit(`Raise ${of} by ${formatPercent(ppm)}`, (d) =>
            raisePrices(d, storeId, wanted, ppm, rounding, currency),
          );
        }}
      />
      <span className="text-muted -ml-5">%</span>
      <Button
        disabled={ending === 'none'}
        title={ending === 'none' ? 'Choose what prices end in first' : undefined}
        onClick={() => desk.edit(`Round to ${ending}`, (d) => roundPrices(d, storeId, wanted, rounding, currency))}
      >
        Round {selected.size > 0 ? 'the selected' : 'all'} {way === 'nearest' ? 'to the nearest' : `${way} to`}{' '}
        {ENDING_WORDS.get(ending) ?? ending}
      </Button>
      <Rules keeps={store === null} />
    </div>
  );
}

/** Rules that were kept, and the way to keep one; prices of one store alone make none. */
function Rules({ keeps }: { keeps: boolean }) {
  const { doc, edit } = useDesk('doc', 'edit');
  const {
    data: rules = [],
    error,
    refetch,
  } = useQuery(
    {
      queryKey: ['money', 'rules'],
      queryFn: () => call<{ rules: KeptRule[] }>('GET', '/pricing/rules').then((answer) => answer.rules),
    },
    queries(),
  );
  const keep = async (name: string, forNew: boolean): Promise<boolean> => {
    const rule = ruleOf(doc);
    if (!rule) {
      toast('A rule aims at a profit, a margin or a markup; set one for all first, not single prices.');
      return false;
    }
    try {
      await call('POST', '/pricing/rules', { name, rule, forNew });
      await refetch();
      toast(forNew ? `“${name}” is kept, and new products begin with it.` : `“${name}” is kept.`);
      return true;
    } catch (error) {
      toast((error as Error).message);
      return false;
    }
  };
  return (
    <>
      {error && <span className="text-stop">Price rules could not be read: {error.message}</span>}
      {rules.length > 0 && (
        <Select
          label="Price by rule"
          value=""
          choices={rules.map((rule) => ({
            value: rule.id,
            name: rule.forNew ? `${rule.name} (for new products)` : rule.name,
          }))}
          onChange={(id) => {
            const rule = rules.find((one) => one.id === id)!;
            edit(`Price by ${rule.name}`, (d) => withRule(d, rule.rule));
          }}
        />
      )}
      {keeps && <KeepRule onKeep={keep} />}
    </>
  );
}

function KeepRule({ onKeep }: { onKeep: (name: string, forNew: boolean) => Promise<boolean> }) {
  const [name, setName] = useState('');
  const keep = (forNew: boolean) => void onKeep(name, forNew).then((kept) => kept && setName(''));
  return (
    <span className="inline-flex items-baseline gap-2">
      <label className="text-muted">
        Keep as rule{' '}
        <input
          aria-label="Name of the rule"
          value={name}
          maxLength={80}
          onChange={(e) => setName(e.target.value)}
          className="w-32 border-b border-edge bg-transparent px-0.5 py-0.5 text-ink"
        />
      </label>
      <Button kind="quiet" disabled={name.trim() === ''} onClick={() => keep(false)}>
        Keep
      </Button>
      <Button kind="quiet" disabled={name.trim() === ''} onClick={() => keep(true)}>
        Keep for new products
      </Button>
    </span>
  );
}
