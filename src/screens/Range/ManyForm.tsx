'use client';

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { parsePercentPpm } from '@/core/pricing/money';
import type { ManyKind } from '@/core/range-changes';
import { WAYS, type Way } from '@/core/pricing/rounding';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { TextField } from '@/ui/Field';
import { queries } from '@/ui/queries';
import { Select } from '@/ui/Select';
import { Sheet } from '@/ui/Sheet';
import { useAct } from '@/ui/use-act';
import { ChooseBlank } from '../ChooseBlank';

export type FormKind = Exclude<ManyKind, 'check' | 'archive' | 'delete'>;
type Plan = (kind: FormKind, asked: object) => Promise<void>;

const TITLES: { readonly [kind in FormKind]: string } = {
  'tag-add': 'Add a tag',
  'tag-remove': 'Remove a tag',
  'price-rule': 'Price by a rule',
  raise: 'Raise or lower prices',
  ending: 'End prices otherwise',
  duplicate: 'Duplicate onto a blank',
};

const WAY_NAMES: { readonly [way in Way]: string } = { up: 'up', down: 'down', nearest: 'to the nearest' };

/** Asks what a change of many is to be, and leads to its plan. */
export function ManyForm({ kind, plan, onClose }: { kind: FormKind; plan: Plan; onClose: () => void }) {
  const { act, busy, problem } = useAct();
  const go = (read: () => object) => void act(async () => plan(kind, read()));
  const form = { busy, go };
  return (
    <Sheet open onClose={onClose} title={TITLES[kind]}>
      <div className="text-small">
        {kind === 'tag-add' && <Tag {...form} says="Products that have the tag already stay as they are." />}
        {kind === 'tag-remove' && <Tag {...form} says="It is removed whatever the case of its letters." />}
        {kind === 'raise' && <Raise {...form} />}
        {kind === 'ending' && <Ending {...form} />}
        {kind === 'price-rule' && <Rule {...form} />}
        {kind === 'duplicate' && <ChooseBlank except={null} onChoose={(blankId) => go(() => ({ blankId }))} />}
        {problem && <Alert className="mt-3">{problem}</Alert>}
        <p className="mt-3 text-muted">
          What it would do is shown next, product by product. Nothing is changed before.
        </p>
      </div>
    </Sheet>
  );
}

interface FormProps {
  readonly busy: boolean;
  /** Reads what was typed (throws a sentence for what cannot be read), and goes on. */
  readonly go: (read: () => object) => void;
}

function See({ busy, read, go, disabled = false }: FormProps & { read: () => object; disabled?: boolean }) {
  return (
    <Button kind="primary" className="mt-2" disabled={busy || disabled} onClick={() => go(read)}>
      {busy ? 'Looking …' : 'See what it does'}
    </Button>
  );
}

function Tag({ says, ...form }: FormProps & { says: string }) {
  const [tag, setTag] = useState('');
  return (
    <>
      <TextField label="Tag" value={tag} onChange={setTag} hint={says} autoFocus />
      <See {...form} read={() => ({ tag: tag.trim() })} disabled={tag.trim() === ''} />
    </>
  );
}

function Raise(form: FormProps) {
  const [percent, setPercent] = useState('5');
  return (
    <>
      <TextField
        label="By how many percent"
        value={percent}
        onChange={setPercent}
        hint="5 raises each price by 5 %, -5 lowers it. It becomes a fixed price, with its ending."
        autoFocus
      />
      <See {...form} read={() => ({ ppm: parsePercentPpm(percent) })} />
    </>
  );
}

function Ending(form: FormProps) {
  const [ending, setEnding] = useState('.99');
  const [way, setWay] = useState<Way>('up');
  return (
    <>
      <TextField
        label="Prices end in"
        value={ending}
        onChange={setEnding}
        hint=".99, 4.99 or 80; none; or ladder, for the steps kept under Money"
        autoFocus
      />
      <Select
        label="They go there"
        value={way}
        choices={WAYS.map((value) => ({ value, name: WAY_NAMES[value] }))}
        onChange={setWay}
      />
      <p>
        <See {...form} read={() => ({ ending: ending.trim(), way })} />
      </p>
    </>
  );
}

interface KeptRule {
  readonly id: string;
  readonly name: string;
}

function Rule(form: FormProps) {
  const { data: rules, error } = useQuery(
    {
      queryKey: ['money', 'rules'],
      queryFn: () => call<{ rules: KeptRule[] }>('GET', '/pricing/rules').then((answer) => answer.rules),
    },
    queries(),
  );
  const [chosen, setChosen] = useState<string | null>(null);
  if (error) return <Alert>{error.message}</Alert>;
  if (!rules) return <p className="text-muted">Looking for your rules …</p>;
  const [first] = rules;
  if (!first) return <p>No price rule is kept yet. Keep one from a product’s Price part, under a name.</p>;
  return (
    <>
      <Select
        label="Rule"
        value={chosen ?? first.id}
        choices={rules.map(({ id, name }) => ({ value: id, name }))}
        onChange={setChosen}
      />
      <p className="mt-2 text-muted">
        Single prices that were fixed go with it, and so do those of stores that it names.
      </p>
      <See {...form} read={() => ({ ruleId: chosen ?? first.id })} />
    </>
  );
}
