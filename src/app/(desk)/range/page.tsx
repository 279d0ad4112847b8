import type { Metadata } from 'next';
import { loadRange } from '@/screens/Range/load';
import { Range } from '@/screens/Range/Range';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Range' };

export default async function RangePage() {
  const { ctx, actor } = await pageActor();
  return <Range {...await loadRange(ctx, actor)} />;
}
