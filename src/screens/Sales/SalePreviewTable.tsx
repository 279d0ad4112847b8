'use client';

import { formatAmount, formatMoney, formatPercent, money } from '@/core/pricing/money';
import { count } from '@/core/words/count';
import { Button } from '@/ui/Button';
import { TableHead } from '@/ui/TableHead';
import type { SalePreview } from './load';

/** The deepest code that still pays in each store: a share, and a sum off an order of one item. */
function Deepest({ deepest }: Pick<SalePreview, 'deepest'>) {
  return (
    <ul className="mb-1.5">
      {deepest.map(({ storeId, storeName, sharePpm, sumMinor, currency }) => (
        <li key={storeId}>
          {sharePpm === null || sumMinor === null ? (
            <span className="text-stop">In {storeName} a price loses money without a code already.</span>
          ) : (
            <>
              The deepest code that still pays on all of this in {storeName}:{' '}
              <span className="font-semibold">{formatPercent(sharePpm)}</span> or{' '}
              <span className="font-semibold">{formatMoney(money(sumMinor, currency))}</span> off an order.
            </>
          )}
        </li>
      ))}
    </ul>
  );
}

/** Lines that the server tells at most. */
const MAX_LINES = 200;

interface PreviewProps {
  readonly preview: SalePreview;
  readonly isCode: boolean;
  readonly acceptLosses: boolean;
  readonly onAccept: (accept: boolean) => void;
  readonly onPlan: () => void;
  /** Products that are left out of it. */
  readonly left: ReadonlySet<string>;
  readonly onLeave: (productId: string, isLeft: boolean) => void;
}

/** What a planned sale or code would do, line by line, and the way to plan it. */
export function SalePreviewTable(props: PreviewProps) {
  return (
    <div className="mt-4">
      <Sums {...props} />
      {props.isCode && <Deepest deepest={props.preview.deepest} />}
      <Lines {...props} />
    </div>
  );
}

function Sums({ preview, isCode, acceptLosses, onAccept, onPlan, left }: PreviewProps) {
  const shown = new Set(preview.lines.map(({ productId }) => productId)).size;
  return (
    <p className="flex flex-wrap items-baseline gap-x-5 mb-1.5">
      <span>
        {count(preview.products, 'product')}, {count(preview.lines.length, 'listing')} shown
      </span>
      {preview.cutOff && <span className="text-caution">only the first 2,000 products were looked at</span>}
      {preview.held > 0 && <span className="text-caution">{preview.held} variants are held at their floor</span>}
      {preview.losing > 0 && (
        <span className="text-stop">
          {preview.losing} {preview.losing === 1 ? 'variant loses' : 'variants lose'} money{' '}
          {isCode ? 'with it' : 'all the same'}
        </span>
      )}
      {preview.losingWithCode > 0 && (
        <span className="text-stop">
          {preview.losingWithCode} lose money where a code is used that holds at the same time
        </span>
      )}
      {isCode && preview.losing > 0 && (
        <label>
          <input
            type="checkbox"
            className="accent-primary"
            checked={acceptLosses}
            onChange={(e) => onAccept(e.target.checked)}
          />{' '}
          I accept these losses
        </label>
      )}
      <Button
        kind="primary"
        disabled={preview.products === 0 || left.size === shown || (isCode && preview.losing > 0 && !acceptLosses)}
        onClick={onPlan}
      >
        Plan it
      </Button>
    </p>
  );
}

const span = ([least, most]: readonly [number, number], currency: string) =>
  least === most
    ? formatMoney(money(least, currency))
    : `${formatAmount(money(least, currency))} – ${formatMoney(money(most, currency))}`;

function Lines({ preview, isCode, left, onLeave }: PreviewProps) {
  // Products can be chosen one by one where all lines stand in the table.
  const canChoose = !preview.cutOff && preview.lines.length < MAX_LINES;
  return (
    <table className="w-full bg-sheet border-y border-hairline">
      <TableHead
        className="border-b border-hairline"
        columns={[
          ['Product', 'py-1.5 pl-2'],
          'Store',
          ['Variants', 'text-right'],
          ['Now', 'text-right'],
          [isCode ? 'With the code' : 'In the sale', 'text-right'],
          [isCode ? 'Loss' : 'At the floor', 'text-right pr-2'],
        ]}
      />
      <tbody>
        {preview.lines.map((line) => (
          <tr key={line.productId + line.storeId} className="border-b border-hairline">
            <td className="py-1.5 pl-2">
              <label className={left.has(line.productId) ? 'text-muted line-through' : ''}>
                {canChoose && (
                  <input
                    type="checkbox"
                    className="accent-primary mr-2"
                    checked={!left.has(line.productId)}
                    onChange={(e) => onLeave(line.productId, !e.target.checked)}
                  />
                )}
                {line.title}
              </label>
            </td>
            <td>{line.storeName}</td>
            <td className="text-right">{line.variants}</td>
            <td className="text-right">{span(line.before, line.currency)}</td>
            <td className="text-right font-semibold">{span(line.then, line.currency)}</td>
            <td
              className={`text-right pr-2 ${line.losing > 0 ? 'text-stop' : line.held > 0 ? 'text-caution' : 'text-muted'}`}
            >
              {line.losing > 0 ? `a loss on ${line.losing}` : line.held > 0 ? `${line.held} held` : '–'}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
