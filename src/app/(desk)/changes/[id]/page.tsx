import type { Metadata } from 'next';
import { ChangePage } from '@/screens/Changes/ChangePage';
import { loadChange } from '@/screens/Changes/load';
import { orNotFound, pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Change of many' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { ctx, actor } = await pageActor();
  const { id } = await params;
  return <ChangePage {...await loadChange(ctx, actor, id).catch(orNotFound)} />;
}
