import type { Metadata } from 'next';
import { loadSends } from '@/screens/Send/load';
import { SendsPage } from '@/screens/Send/SendsPage';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Sends' };

export default async function AllSendsPage() {
  const { ctx, actor } = await pageActor();
  return <SendsPage {...await loadSends(ctx, actor)} />;
}
