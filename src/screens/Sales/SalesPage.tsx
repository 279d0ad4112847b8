'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { TableHead } from '@/ui/TableHead';
import { toast } from '@/ui/toast';
import { ownEntry } from '@/core/own-entry';
import { saleWords } from '@/core/pricing/sale';
import type { SaleScope } from '@/core/pricing/sale-scope';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { useEvents } from '@/ui/events';
import type { SaleReport, SalesData, SaleView } from './load';
import { PlanSale } from './PlanSale';
import { dayAndTime } from '@/ui/when';

const STATES = {
  planned: ['○', 'planned', 'text-muted'],
  running: ['●', 'running', 'text-kept'],
  ended: ['–', 'ended', 'text-muted'],
  stopped: ['–', 'stopped', 'text-muted'],
} as const;

/** For what a sale is, in words. */
export function scopeWords(scope: SaleScope, stores: SalesData['stores']): string {
  const what = [
    ...scope.kinds,
    ...scope.tags.map((tag) => `tagged ${tag}`),
    scope.productIds.length > 0
      ? `${scope.productIds.length} ${scope.productIds.length === 1 ? 'product' : 'products'}`
      : '',
  ].filter(Boolean);
  const where = scope.storeIds.map((id) => stores.find((store) => store.id === id)?.name ?? 'a store that is gone');
  return `${what.join(', ') || 'all products'}, ${where.join(', ') || 'all stores'}`;
}

/** Sales: planned, running and past. One is planned with a look at what it does to each price; it begins and ends by the clock. */
export function SalesPage(data: SalesData) {
  const router = useRouter();
  useEvents((topic) => {
    if (topic === 'sale' || topic === 'reset') router.refresh();
  });
  return (
    <div className="mx-auto max-w-[1180px] px-[18px] pt-5 pb-12">
      <div className="flex items-baseline gap-4 mb-4">
        <h1 className="font-display text-[24px] font-semibold">Sales and codes</h1>
        <p className="text-muted">
          Both begin and end by the clock. A sale never goes below a floor, and touches only listings that are in step;
          a code is typed by buyers.
        </p>
      </div>
      <PlanSale {...data} />
      <h2 className="font-display text-[17px] mt-8 mb-1.5">Planned, running and past</h2>
      {data.sales.length === 0 ? (
        <p className="text-muted border-t border-hairline py-2">There was no sale or code yet.</p>
      ) : (
        <table className="w-full text-small">
          <TableHead
            className="border-y border-hairline"
            columns={[['Sale', 'py-2'], 'For', 'From', 'Until', 'State', '(Stop)']}
          />
          <tbody>
            {data.sales.map((sale) => (
              <SaleLine key={sale.id} sale={sale} data={data} onStopped={() => router.refresh()} />
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}

function SaleLine({ sale, data, onStopped }: { sale: SaleView; data: SalesData; onStopped: () => void }) {
  const [busy, setBusy] = useState(false);
  const [mark, word, tone] = STATES[sale.state];
  const stop = () => {
    setBusy(true);
    void call('DELETE', `/sales/${sale.id}`)
      .then(onStopped, (error: Error) => toast.error(error.message))
      .finally(() => setBusy(false));
  };
  return (
    <tr className="border-b border-hairline align-top">
      <td className="py-2">
        <span className="font-semibold">{sale.name}</span>
        {sale.code !== null && sale.code !== sale.name && <span className="ml-2 font-mono">{sale.code}</span>}
        <span className="block text-muted">
          {saleWords(sale.terms)}
          {sale.code !== null && ' with the code'}
        </span>
      </td>
      <td className="py-2">{scopeWords(sale.scope, data.stores)}</td>
      <td className="py-2 whitespace-nowrap">{dayAndTime(sale.startsAt)}</td>
      <td className="py-2 whitespace-nowrap">{dayAndTime(sale.endsAt)}</td>
      <td className="py-2">
        <span className={tone}>
          <span aria-hidden>{mark}</span> {word}
        </span>
        {sale.report?.begun && (
          <Report title="begun" isCode={sale.code !== null} report={sale.report.begun} data={data} />
        )}
        {sale.report?.ended && (
          <Report title="ended" isCode={sale.code !== null} report={sale.report.ended} data={data} />
        )}
      </td>
      <td className="py-2 text-right">
        {(sale.state === 'planned' || sale.state === 'running') && (
          <Button kind="quiet" disabled={busy} onClick={stop}>
            {sale.state === 'running' ? 'End it now' : 'Cancel it'}
          </Button>
        )}
      </td>
    </tr>
  );
}

/** What became of listings, and of which nothing. */
function Report({
  title,
  isCode,
  report: { sent, left },
  data: { titles, stores },
}: {
  title: string;
  isCode: boolean;
  report: SaleReport;
  data: SalesData;
}) {
  const what = isCode ? ['store', 'stores'] : ['listing', 'listings'];
  return (
    <span className="block text-tiny text-muted">
      {title}: {sent} {sent === 1 ? what[0] : what[1]} {isCode ? 'told' : 'sent'}
      {left.length > 0 && (
        <details>
          <summary className="cursor-pointer text-caution">{left.length} left as they are</summary>
          <ul>
            {left.map(({ productId, storeId, why }) => (
              <li key={`${productId}/${storeId}`}>
                {productId === null ? (
                  (stores.find(({ id }) => id === storeId)?.name ?? 'A store that is gone')
                ) : (
                  <Link className="text-primary underline" href={`/products/${productId}?part=stores`}>
                    {ownEntry(titles, productId) ?? 'a product'}
                  </Link>
                )}
                : {why}
              </li>
            ))}
          </ul>
        </details>
      )}
    </span>
  );
}
