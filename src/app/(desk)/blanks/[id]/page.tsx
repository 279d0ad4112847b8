import type { Metadata } from 'next';
import { BlankPage } from '@/screens/Blank/BlankPage';
import { loadBlankPage } from '@/screens/Blank/load';
import { orNotFound, pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Blank' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { ctx, actor } = await pageActor();
  const data = await loadBlankPage(ctx, actor, (await params).id).catch(orNotFound);
  return <BlankPage {...data} />;
}
