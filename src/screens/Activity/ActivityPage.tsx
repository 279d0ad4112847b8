'use client';

import { useInfiniteQuery } from '@tanstack/react-query';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { ACTIVITY_ABOUT, type ActivityAbout } from '@/core/activity';
import { TOPICS } from '@/core/topics';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { queries } from '@/ui/queries';
import { Select } from '@/ui/Select';
import { TableHead } from '@/ui/TableHead';
import { dayText, timeText } from '@/ui/when';
import type { ActivityData, ActivityLine } from './load';

const ANY = '';
const NOBODY = 'nobody';

const ABOUT_NAMES: { readonly [about in ActivityAbout]: string } = {
  listing: 'listings',
  product: 'products',
  prices: 'prices of many',
  artwork: 'artwork',
  store: 'stores',
  send: 'sends of many',
  sale: 'sales and codes',
  money: 'rates and rules',
};

interface Page {
  readonly lines: readonly ActivityLine[];
  readonly after: string | null;
}

/** Everything that was done and noticed, newest first, by whom; the filters are kept in the address. */
export function ActivityPage({ asked, ...data }: ActivityData & { asked: string }) {
  const {
    data: pages,
    error,
    hasNextPage,
    fetchNextPage,
    isFetchingNextPage,
  } = useInfiniteQuery(
    {
      queryKey: ['activity', asked],
      queryFn: ({ pageParam }) => {
        const query = new URLSearchParams(asked);
        if (pageParam !== null) query.set('after', pageParam);
        return call<Page>('GET', `/activity?${query}`);
      },
      initialPageParam: null as string | null,
      getNextPageParam: ({ after }) => after,
      meta: { topics: TOPICS },
    },
    queries(),
  );
  const lines = pages?.pages.flatMap((page) => page.lines);
  return (
    <main className="mx-auto w-full max-w-[1180px] px-6 py-6">
      <h1 className="font-display text-[26px] font-semibold">Activity</h1>
      <p className="mt-1 text-small text-muted">
        What was done here and noticed in the shops, newest first. It is kept for two years.
      </p>
      <Filters asked={asked} {...data} />
      {error ? (
        <Alert className="mt-4">{error.message}</Alert>
      ) : !lines ? (
        <p className="mt-4 text-muted">Loading …</p>
      ) : lines.length === 0 ? (
        <p className="mt-4 text-muted">Nothing of this kind has happened yet. Choose less above to see more.</p>
      ) : (
        <Lines lines={lines} />
      )}
      {hasNextPage && (
        <Button className="mt-4" onClick={() => void fetchNextPage()} disabled={isFetchingNextPage}>
          Earlier
        </Button>
      )}
    </main>
  );
}

/** Which lines: each choice is in the address, so that it can be kept and given on. */
function Filters({ asked, stores, people, productTitle }: ActivityData & { asked: string }) {
  const router = useRouter();
  const query = new URLSearchParams(asked);
  const choose = (name: string, value: string) => {
    const next = new URLSearchParams(asked);
    if (value === ANY) next.delete(name);
    else next.set(name, value);
    router.replace(`/activity?${next}`);
  };
  const of = (name: string) => query.get(name) ?? ANY;
  return (
    <div className="mt-4 flex flex-wrap items-baseline gap-x-7 gap-y-2" role="group" aria-label="Show">
      <Select
        label="About"
        value={of('about')}
        choices={[
          { value: ANY, name: 'everything' },
          ...ACTIVITY_ABOUT.map((about) => ({ value: about as string, name: ABOUT_NAMES[about] })),
        ]}
        onChange={(value) => choose('about', value)}
      />
      <Select
        label="Store"
        value={of('store')}
        choices={[{ value: ANY, name: 'all' }, ...stores.map(({ id, name }) => ({ value: id, name }))]}
        onChange={(value) => choose('store', value)}
      />
      <Select
        label="By"
        value={of('by')}
        choices={[
          { value: ANY, name: 'anybody' },
          { value: NOBODY, name: 'nobody: jobs and shops' },
          ...people.map((name) => ({ value: name, name })),
        ]}
        onChange={(value) => choose('by', value)}
      />
      <label className="text-small text-muted">
        Until{' '}
        <input
          type="date"
          value={of('until')}
          onChange={(e) => choose('until', e.target.value)}
          className="border-b border-control bg-transparent text-ink"
        />
      </label>
      {of('product') !== ANY && (
        <span className="text-small">
          <span className="text-muted">Product</span> {productTitle ?? 'that is gone'}{' '}
          <Button kind="quiet" onClick={() => choose('product', ANY)}>
            Show all products
          </Button>
        </span>
      )}
    </div>
  );
}

function Lines({ lines }: { lines: readonly ActivityLine[] }) {
  return (
    <table className="mt-4 w-full table-fixed text-small">
      <TableHead
        className="border-b border-hairline"
        columns={[
          ['When', 'w-[132px] py-1'],
          ['By', 'w-[120px]'],
          'What',
          ['Product', 'w-[22%]'],
          ['Store', 'w-[17%]'],
        ]}
      />
      <tbody>
        {lines.map((line, i) => (
          <tr key={line.id} className="border-b border-hairline align-top [&>td]:py-1 [&>td]:pr-3">
            <td className="text-muted tabular-nums">
              {dayText(line.at) === (lines[i - 1] && dayText(lines[i - 1]!.at)) ? '' : `${dayText(line.at)} `}
              <span className="float-right">{timeText(line.at)}</span>
            </td>
            <td className="break-words">{line.by ?? <span className="text-muted">a job</span>}</td>
            <td className="break-words">
              {line.says}
              {line.fields && line.fields.length > 0 && ` Changed: ${line.fields.join(', ')}.`}
              {line.times > 1 && <span className="text-muted"> {line.times} times within the hour.</span>}
            </td>
            <td className="break-words">
              {line.product && <Place href={`/products/${line.product.id}`} name={line.product.title} />}
            </td>
            <td className="break-words">
              {line.store && <Place href={`/stores/${line.store.id}`} name={line.store.name} />}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const Place = ({ href, name }: { href: string; name: string }) => (
  <Link href={href} className="text-primary underline">
    {name}
  </Link>
);
