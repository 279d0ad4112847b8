import type { Metadata } from 'next';
import { loadPriceList } from '@/screens/PriceLists/load';
import { PriceListPage } from '@/screens/PriceLists/PriceListPage';
import { orNotFound, pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Price list' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { ctx, actor } = await pageActor();
  const data = await loadPriceList(ctx, actor, (await params).id).catch(orNotFound);
  return <PriceListPage {...data} />;
}
