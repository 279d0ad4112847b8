import type { Metadata } from 'next';
import { loadMoneyPage } from '@/screens/Money/load';
import { MoneyPage } from '@/screens/Money/MoneyPage';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Rates and rules' };

export default async function RatesAndRulesPage() {
  const { ctx, actor } = await pageActor();
  return <MoneyPage {...await loadMoneyPage(ctx, actor)} />;
}
