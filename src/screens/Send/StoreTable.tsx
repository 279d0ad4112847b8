import { changedWords, feeWords } from '@/core/words/send-words';
import { TableHead } from '@/ui/TableHead';
import type { SendData, SendStoreView } from './load';

const NUMBER = 'text-right pr-4';
const PLAN = ['New', 'Changed', 'Shown or hidden', 'Unchanged', 'Not sent'] as const;
type Heading = (typeof PLAN)[number];

const numberOf = ({ steps }: SendStoreView, heading: Heading): number | undefined => {
  if (heading === 'New') return steps.new;
  if (heading === 'Changed') return steps.changed;
  if (heading === 'Shown or hidden') return steps.shown;
  return heading === 'Unchanged' ? steps.unchanged : (steps.stopped ?? 0) + (steps.busy ?? 0);
};

/** What goes to each store, what that costs there, and once it has begun how far it is. */
export function StoreTable({ send, begun }: { send: SendData['send']; begun: boolean }) {
  const headings = PLAN.filter((one) => one !== 'Shown or hidden' || send.stores.some((store) => store.steps.shown));
  return (
    <div data-wide className="relative overflow-x-auto">
      <table className="w-full">
        <TableHead
          className="border-y border-hairline"
          columns={[
            ['Store', 'py-2 pr-4'],
            ...headings.map((heading) => [heading, NUMBER] as const),
            ['Fees', NUMBER],
            ...(begun
              ? ([
                  ['Sent', NUMBER],
                  ['Failed', NUMBER],
                  ['To go', 'text-right'],
                ] as const)
              : []),
          ]}
        />
        <tbody>
          {send.stores.map((store) => (
            <StoreRow key={store.storeId} store={store} headings={headings} begun={begun} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function StoreRow({ store, headings, begun }: { store: SendStoreView; headings: readonly Heading[]; begun: boolean }) {
  const { progress } = store;
  const changed = changedWords(store);
  return (
    <tr className="border-b border-hairline align-baseline">
      <td className="py-2 pr-4 font-semibold">{store.name}</td>
      {headings.map((heading) => (
        <td key={heading} className={NUMBER}>
          {numberOf(store, heading) || '–'}
          {heading === 'Changed' && changed && <span className="block text-tiny text-muted">{changed}</span>}
        </td>
      ))}
      <td className={`${NUMBER} whitespace-nowrap`}>{feeWords(store.goLive, store.feeMinor, store.currency) ?? '–'}</td>
      {begun &&
        [progress.done, progress.failed, progress.open].map((n, i) => (
          <td key={i} className={`${i === 2 ? 'text-right' : NUMBER} ${i === 1 && n > 0 ? 'text-stop' : ''}`}>
            {n || '–'}
          </td>
        ))}
    </tr>
  );
}
