import Link from 'next/link';
import { TableHead } from '@/ui/TableHead';
import type { SendData, SendItemView } from './load';
import { itemWords } from './view';

/** The listings of a send, those that failed and those that are not sent first: each with its reason, and the way to what it is about. */
export function ItemTable({ send, items, from, next }: Pick<SendData, 'send' | 'items' | 'from' | 'next'>) {
  const nameOf = new Map(send.stores.map(({ storeId, name }) => [storeId, name]));
  return (
    <>
      <h2 className="font-display text-[17px] mt-7 mb-1.5">Listings</h2>
      <table className="w-full">
        <TableHead
          className="border-y border-hairline"
          columns={[['Product', 'py-2 pr-4'], ['Store', 'pr-4'], ['', 'pr-4'], 'Why']}
        />
        <tbody>
          {items.map((item) => (
            <ItemRow
              key={`${item.productId} ${item.storeId} ${item.number}`}
              item={item}
              store={nameOf.get(item.storeId) ?? 'no longer connected'}
            />
          ))}
        </tbody>
      </table>
      {(from > 0 || next !== null) && (
        <nav aria-label="Pages of listings" className="mt-3 flex gap-6">
          {from > 0 && (
            <Link className="text-primary underline" href={`/sends/${send.id}`}>
              First page
            </Link>
          )}
          {next !== null && (
            <Link className="text-primary underline" href={`/sends/${send.id}?from=${next}`}>
              Next page
            </Link>
          )}
        </nav>
      )}
    </>
  );
}

function ItemRow({ item, store }: { item: SendItemView; store: string }) {
  const bad = item.jobState === 'failed' || item.what === 'stopped';
  return (
    <tr className="border-b border-hairline align-baseline">
      <td className="py-1.5 pr-4">
        <Link className="font-semibold hover:text-primary" href={`/products/${item.productId}?part=stores`}>
          {item.title || 'Untitled'}
        </Link>
        {item.number > 1 && <span className="text-muted"> listing {item.number}</span>}
      </td>
      <td className="pr-4">{store}</td>
      <td className={`pr-4 whitespace-nowrap ${bad ? 'text-stop' : 'text-muted'}`}>{itemWords(item)}</td>
      <td className="max-w-[480px]">{item.trouble ?? item.reason ?? ''}</td>
    </tr>
  );
}
