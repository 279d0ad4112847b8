import type { Metadata } from 'next';
import { loadRange } from '@/screens/Range/load';
import { Range } from '@/screens/Range/Range';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Range' };

export default async function RangePage({ searchParams }: { searchParams: Promise<{ sku?: string | string[] }> }) {
  const { ctx, actor } = await pageActor();
  const { sku } = await searchParams;
  return <Range {...await loadRange(ctx, actor, typeof sku === 'string' ? sku : '')} />;
}
