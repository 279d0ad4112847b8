'use client';

import Link from 'next/link';
import { formatAmount, formatMoney, money } from '@/core/pricing/money';
import { Button } from '@/ui/Button';
import { TableHead } from '@/ui/TableHead';
import type { BulkPreview, BulkView } from './load';

/** Lines that are told at the most; of what comes after them nothing is known here. */
const MAX_LINES = 500;

const span = ([least, most]: readonly [number, number], currency: string): string =>
  least === most
    ? formatMoney(money(least, currency))
    : `${formatAmount(money(least, currency))} – ${formatMoney(money(most, currency))}`;

/** What a change of many prices would do, product by product; with faults it cannot be done. */
export function BulkPreviewTable({
  title,
  told,
  busy,
  onApply,
  onClose,
}: {
  title: string;
  told: BulkView & Partial<Pick<BulkPreview, 'faults' | 'same'>>;
  busy: boolean;
  onApply: () => void;
  onClose: () => void;
}) {
  const faults = told.faults ?? [];
  const priced = new Set(told.lines.map(({ productId }) => productId)).size;
  return (
    <section aria-label={title} className="mt-6">
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1 mb-1.5">
        <h2 className="font-display text-[17px]">{title}</h2>
        <span>
          {told.products === 0
            ? 'Nothing would change.'
            : `${told.products} ${told.products === 1 ? 'product' : 'products'} would change.`}
          {told.products > priced &&
            told.lines.length < MAX_LINES &&
            ` ${told.products - priced} of them keep their prices.`}
        </span>
        {told.losing > 0 && <span className="text-stop">{told.losing} prices would lose money to a destination</span>}
        <Button kind="primary" disabled={busy || faults.length > 0 || told.products === 0} onClick={onApply}>
          Change them
        </Button>
        <Button kind="quiet" onClick={onClose}>
          Cancel
        </Button>
      </div>
      {faults.length > 0 && (
        <ul className="border-l-[3px] border-stop pl-3 mb-3 max-h-48 overflow-auto" aria-label="Errors">
          {faults.map((fault, i) => (
            <li key={i}>
              <span className="text-stop">line {fault.line}</span>
              {fault.column ? `, ${fault.column}` : ''}: {fault.says}
            </li>
          ))}
        </ul>
      )}
      {told.lines.length > 0 && <Lines lines={told.lines} />}
    </section>
  );
}

function Lines({ lines }: Pick<BulkView, 'lines'>) {
  return (
    <div className="max-h-[420px] overflow-auto border-y border-hairline bg-sheet">
      <table className="w-full">
        <TableHead
          className="border-b border-hairline"
          columns={[
            ['Product', 'py-1.5 pl-2'],
            'Where',
            ['Variants', 'text-right'],
            ['Before', 'text-right'],
            ['After', 'text-right'],
            ['Left, at the least', 'text-right pr-2'],
          ]}
        />
        <tbody>
          {lines.map((line) => (
            <tr key={`${line.productId}/${line.storeId}`} className="border-b border-hairline">
              <td className="py-1.5 pl-2">
                <Link href={`/products/${line.productId}?part=price`} className="hover:text-primary">
                  {line.title}
                </Link>
              </td>
              <td>{line.storeName || 'all stores'}</td>
              <td className="text-right">{line.variants}</td>
              <td className="text-right">{span(line.before, line.currency)}</td>
              <td className="text-right font-semibold">{span(line.then, line.currency)}</td>
              <td className={`text-right pr-2 ${line.losing > 0 ? 'text-stop' : ''}`}>
                {formatAmount(money(line.leftMinor, line.currency))}
                {line.losing > 0 && <span className="block text-tiny">a loss on {line.losing}</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
