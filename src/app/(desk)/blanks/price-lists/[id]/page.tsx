import type { Metadata } from 'next';
import { loadPriceList } from '@/screens/PriceLists/load';
import { PriceListPage } from '@/screens/PriceLists/PriceListPage';
import { orNotFound, pageActor } from '@/server/http/page';
import { priceListTitle } from '@/server/http/titles';

type Params = { readonly params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Params): Promise<Metadata> {
  const { ctx, actor } = await pageActor();
  return { title: await priceListTitle(ctx, actor.workspaceId, (await params).id) };
}

export default async function Page({ params }: Params) {
  const { ctx, actor } = await pageActor();
  const data = await loadPriceList(ctx, actor, (await params).id).catch(orNotFound);
  return <PriceListPage {...data} />;
}
