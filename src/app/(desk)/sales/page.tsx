import type { Metadata } from 'next';
import { loadSales } from '@/screens/Sales/load';
import { SalesPage } from '@/screens/Sales/SalesPage';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Sales and codes' };

type Asked = Promise<{ product?: string | string[] }>;

export default async function Page({ searchParams }: { searchParams: Asked }) {
  const { ctx, actor } = await pageActor();
  const { product = [] } = await searchParams;
  return <SalesPage {...await loadSales(ctx, actor, [product].flat())} />;
}
