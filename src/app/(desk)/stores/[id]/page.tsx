import type { Metadata } from 'next';
import { loadStore } from '@/screens/Stores/load';
import { StorePage } from '@/screens/Stores/StorePage';
import { orNotFound, pageActor } from '@/server/http/page';
import { storeTitle } from '@/server/http/titles';

type Params = { readonly params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Params): Promise<Metadata> {
  const { ctx, actor } = await pageActor();
  return { title: await storeTitle(ctx, actor.workspaceId, (await params).id) };
}

export default async function OneStorePage({
  params,
  searchParams,
}: Params & { readonly searchParams: Promise<{ after?: string | string[] }> }) {
  const { ctx, actor } = await pageActor();
  const { after } = await searchParams;
  const from = typeof after === 'string' ? after : null;
  const store = await loadStore(ctx, actor, (await params).id, from).catch(orNotFound);
  return <StorePage {...store} />;
}
