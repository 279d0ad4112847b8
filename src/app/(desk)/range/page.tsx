import type { Metadata } from 'next';
import { loadRange, loadShelved } from '@/screens/Range/load';
import { Range } from '@/screens/Range/Range';
import { ShelvedPage } from '@/screens/Range/ShelvedPage';
import { isShelf, readRangeQuery } from '@/screens/Range/view';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Range' };

type Asked = Promise<Record<string, string | string[] | undefined>>;

/** The parameters of an address, each as often as it was given. */
const parametersOf = (asked: Awaited<Asked>): URLSearchParams =>
  new URLSearchParams(Object.entries(asked).flatMap(([name, value]) => [value ?? []].flat().map((one) => [name, one])));

export default async function RangePage({ searchParams }: { searchParams: Asked }) {
  const { ctx, actor } = await pageActor();
  const query = parametersOf(await searchParams);
  const shelf = query.get('in');
  if (isShelf(shelf) && shelf !== 'range')
    return <ShelvedPage {...await loadShelved(ctx, actor, { shelf, after: query.get('after') })} />;
  return <Range {...await loadRange(ctx, actor, readRangeQuery(query))} />;
}
