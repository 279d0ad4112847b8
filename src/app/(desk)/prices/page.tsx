import type { Metadata } from 'next';
import { loadPrices } from '@/screens/Prices/load';
import { PricesPage } from '@/screens/Prices/PricesPage';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Prices of many' };

export default async function Page() {
  const { ctx, actor } = await pageActor();
  return <PricesPage {...await loadPrices(ctx, actor)} />;
}
