'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from '@/ui/toast';
import { Alert } from '@/ui/Alert';
import { useAct } from '@/ui/use-act';
import { call, Problem } from '@/ui/api';
import { Button } from '@/ui/Button';
import { FileButton } from '@/ui/FileButton';
import { Select } from '@/ui/Select';
import type { BulkPreview, BulkView, PricesData } from './load';
import { BulkPreviewTable } from './BulkPreviewTable';
import { dayAndTime } from '@/ui/when';

const ALL = '';

/** What would change, and how it is done. */
interface Look {
  readonly title: string;
  readonly told: BulkView & Partial<Pick<BulkPreview, 'faults' | 'same'>>;
  readonly apply: () => Promise<unknown>;
}

async function sendFile(file: File, apply: boolean): Promise<BulkPreview> {
  const answer = await fetch(`/api/v1/prices${apply ? '?apply=true' : ''}`, {
    method: 'POST',
    headers: { 'content-type': 'text/csv' },
    body: file,
  });
  const json = (await answer.json()) as BulkPreview & { detail?: string; code?: string };
  if (!answer.ok) throw new Problem(answer.status, json.code ?? '', json.detail ?? 'The file was rejected.', {});
  return json;
}

interface WayProps {
  readonly busy: boolean;
  /** Looks at what would change. */
  readonly look: (find: () => Promise<Look>) => void;
}

/** Prices of many products at once: by a file or a rule, looked at first, all or nothing, and undone in one step. */
export function PricesPage(data: PricesData) {
  const router = useRouter();
  const [look, setLook] = useState<Look | null>(null);
  const { act, busy, problem } = useAct();
  const done = (what: string) => {
    setLook(null);
    toast(what);
    router.refresh();
  };
  const ways: WayProps = { busy, look: (find) => void act(async () => setLook(await find())) };
  return (
    <div className="mx-auto max-w-[1180px] px-[18px] pt-5 pb-12 text-small">
      <div className="flex items-baseline gap-4 mb-4">
        <h1 className="font-display text-[24px] font-semibold">Prices of many</h1>
        <p className="text-base text-muted">
          What would change is shown first; then all of it is changed or nothing, and one step undoes it.
        </p>
      </div>
      <div className="grid grid-cols-2 gap-x-10 gap-y-6 max-[900px]:grid-cols-1">
        <ByFile {...ways} />
        <ByRule {...ways} {...data} />
      </div>
      {problem && <Alert className="mt-4">{problem}</Alert>}
      {look && (
        <BulkPreviewTable
          {...look}
          busy={busy}
          onApply={() =>
            void act(async () => {
              await look.apply();
              done(`${look.title}: ${look.told.products} products changed.`);
            })
          }
          onClose={() => setLook(null)}
        />
      )}
      <Batches
        batches={data.batches}
        busy={busy}
        onUndo={(batch) =>
          void act(async () => {
            await call('POST', `/prices/batches/${batch.id}/undo`);
            done(`${batch.label} was undone.`);
          })
        }
      />
      <p className="mt-6 text-muted">
        For a while only:{' '}
        <Link href="/sales" className="text-primary underline">
          Sales
        </Link>
        .
      </p>
    </div>
  );
}

function ByFile({ busy, look }: WayProps) {
  return (
    <section>
      <h2 className="font-display text-[17px] mb-1.5">As a file</h2>
      <p className="border-t border-hairline pt-2 flex flex-wrap items-baseline gap-4">
        <a href="/api/v1/prices" download className="text-primary underline">
          All prices as CSV
        </a>
        <FileButton
          disabled={busy}
          accept=".csv,text/csv"
          label="Prices from CSV"
          onFile={(file) =>
            look(async () => ({
              title: `Prices from ${file.name}`,
              told: await sendFile(file, false),
              apply: () => sendFile(file, true),
            }))
          }
        >
          From CSV …
        </FileButton>
      </p>
    </section>
  );
}

function ByRule({ busy, look, rules, kinds, tags }: WayProps & Pick<PricesData, 'rules' | 'kinds' | 'tags'>) {
  const [to, setTo] = useState({ ruleId: rules[0]?.id ?? '', kind: ALL, tag: ALL });
  const one = (value: string) => (value === ALL ? [] : [value]);
  const body = { ruleId: to.ruleId, kinds: one(to.kind), tags: one(to.tag) };
  const named = (all: string, values: readonly string[]) => [
    { value: ALL, name: all },
    ...values.map((value) => ({ value, name: value })),
  ];
  const find = async (): Promise<Look> => ({
    title: `Price by ${rules.find(({ id }) => id === to.ruleId)?.name ?? 'the rule'}`,
    told: await call<BulkView>('POST', '/prices/rule', body),
    apply: () => call('POST', '/prices/rule?apply=true', body),
  });
  return (
    <section>
      <h2 className="font-display text-[17px] mb-1.5">By a rule</h2>
      {rules.length === 0 ? (
        <p className="border-t border-hairline pt-2 text-muted">
          There is no price rule yet: keep one from a product, in its part Price.
        </p>
      ) : (
        <p className="border-t border-hairline pt-2 flex flex-wrap items-baseline gap-x-4 gap-y-2">
          <Select
            label="Price by"
            value={to.ruleId}
            choices={rules.map(({ id, name }) => ({ value: id, name }))}
            onChange={(ruleId) => setTo({ ...to, ruleId })}
          />
          <Select
            label="goods"
            value={to.kind}
            choices={named('of every kind', kinds)}
            onChange={(kind) => setTo({ ...to, kind })}
          />
          {tags.length > 0 && (
            <Select
              label="artwork"
              value={to.tag}
              choices={named('any', tags)}
              onChange={(tag) => setTo({ ...to, tag })}
            />
          )}
          <Button disabled={busy} onClick={() => look(find)}>
            See what it does
          </Button>
        </p>
      )}
    </section>
  );
}

function Batches({
  batches,
  busy,
  onUndo,
}: Pick<PricesData, 'batches'> & { busy: boolean; onUndo: (batch: PricesData['batches'][number]) => void }) {
  return (
    <>
      <h2 className="font-display text-[17px] mt-8 mb-1.5">What was done</h2>
      {batches.length === 0 ? (
        <p className="border-t border-hairline pt-2 text-muted">
          Prices of many products were not changed at once yet.
        </p>
      ) : (
        <ul className="border-t border-hairline">
          {batches.map((batch) => (
            <li key={batch.id} className="border-b border-hairline py-1.5 flex flex-wrap items-baseline gap-x-5">
              <span className="font-semibold">{batch.label}</span>
              <span>
                {batch.products} {batch.products === 1 ? 'product' : 'products'}
              </span>
              <span className="text-muted">
                {batch.by}, {dayAndTime(batch.madeAt)}
              </span>
              <span className="ml-auto">
                {batch.undone ? (
                  <span className="text-muted">undone</span>
                ) : (
                  <Button kind="quiet" disabled={busy} onClick={() => onUndo(batch)}>
                    Undo
                  </Button>
                )}
              </span>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
