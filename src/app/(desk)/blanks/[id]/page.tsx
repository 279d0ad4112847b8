import type { Metadata } from 'next';
import { BlankPage } from '@/screens/Blank/BlankPage';
import { loadBlankPage } from '@/screens/Blank/load';
import { orNotFound, pageActor } from '@/server/http/page';
import { blankTitle } from '@/server/http/titles';

type Params = { readonly params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Params): Promise<Metadata> {
  const { ctx } = await pageActor();
  return { title: await blankTitle(ctx, (await params).id) };
}

export default async function Page({ params }: Params) {
  const { ctx, actor } = await pageActor();
  const data = await loadBlankPage(ctx, actor, (await params).id).catch(orNotFound);
  return <BlankPage {...data} />;
}
