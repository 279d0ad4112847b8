import type { Metadata } from 'next';
import { loadRange } from '@/screens/Range/load';
import { Range } from '@/screens/Range/Range';
import { readRangeQuery } from '@/screens/Range/view';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Range' };

type Asked = Promise<Record<string, string | string[] | undefined>>;

export default async function RangePage({ searchParams }: { searchParams: Asked }) {
  const { ctx, actor } = await pageActor();
  return <Range {...await loadRange(ctx, actor, readRangeQuery(await searchParams))} />;
}
