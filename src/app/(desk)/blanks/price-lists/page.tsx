import type { Metadata } from 'next';
import { loadPriceLists } from '@/screens/PriceLists/load';
import { PriceLists } from '@/screens/PriceLists/PriceLists';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Price lists' };

export default async function PriceListsPage() {
  const { ctx, actor } = await pageActor();
  return <PriceLists {...await loadPriceLists(ctx, actor)} />;
}
