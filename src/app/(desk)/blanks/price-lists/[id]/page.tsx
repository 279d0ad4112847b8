import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { isTypicaError } from '@/core/errors';
import { loadPriceList } from '@/screens/PriceLists/load';
import { PriceListPage } from '@/screens/PriceLists/PriceListPage';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Price list' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { ctx, actor } = await pageActor();
  const data = await loadPriceList(ctx, actor, (await params).id).catch((error: unknown) => {
    if (isTypicaError(error, 'not-found')) notFound();
    throw error;
  });
  return <PriceListPage {...data} />;
}
