import type { Metadata } from 'next';
import { loadSales } from '@/screens/Sales/load';
import { SalesPage } from '@/screens/Sales/SalesPage';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Sales and codes' };

export default async function Page() {
  const { ctx, actor } = await pageActor();
  return <SalesPage {...await loadSales(ctx, actor)} />;
}
