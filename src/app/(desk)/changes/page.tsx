import type { Metadata } from 'next';
import { ChangesPage } from '@/screens/Changes/ChangesPage';
import { loadChanges } from '@/screens/Changes/load';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Changes of many' };

export default async function Page() {
  const { ctx, actor } = await pageActor();
  return <ChangesPage {...await loadChanges(ctx, actor)} />;
}
