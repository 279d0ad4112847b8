import type { Metadata } from 'next';
import { loadStores } from '@/screens/Stores/load';
import { problemSays } from '@/screens/Stores/problems';
import { Stores } from '@/screens/Stores/Stores';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Stores' };

export default async function StoresPage({ searchParams }: { searchParams: Promise<{ problem?: string | string[] }> }) {
  const { ctx, actor } = await pageActor();
  return <Stores {...await loadStores(ctx, actor)} problem={problemSays((await searchParams).problem)} />;
}
