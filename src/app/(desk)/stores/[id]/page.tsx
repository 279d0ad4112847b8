import type { Metadata } from 'next';
import { loadStore } from '@/screens/Stores/load';
import { StorePage } from '@/screens/Stores/StorePage';
import { orNotFound, pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Store' };

export default async function OneStorePage({ params }: { params: Promise<{ id: string }> }) {
  const { ctx, actor } = await pageActor();
  const store = await loadStore(ctx, actor, (await params).id).catch(orNotFound);
  return <StorePage {...store} />;
}
