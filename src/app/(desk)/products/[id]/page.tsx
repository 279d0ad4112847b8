import type { Metadata } from 'next';
import { Bench } from '@/screens/Bench/Bench';
import { loadBench } from '@/screens/Bench/load';
import { Shelved } from '@/screens/Range/Shelved';
import { orNotFound, pageActor } from '@/server/http/page';
import { productTitle } from '@/server/http/titles';
import { shelfOf } from '@/server/products/shelving';

type Params = { readonly params: Promise<{ id: string }> };

export async function generateMetadata({ params }: Params): Promise<Metadata> {
  const { ctx, actor } = await pageActor();
  return { title: await productTitle(ctx, actor.workspaceId, (await params).id) };
}

export default async function BenchPage({ params }: Params) {
  const { ctx, actor } = await pageActor();
  const { id } = await params;
  const { shelf, title } = await shelfOf(ctx.db, actor.workspaceId, id).catch(orNotFound);
  if (shelf !== 'range') return <Shelved id={id} title={title} shelf={shelf} />;
  const data = await loadBench(ctx, actor, id).catch(orNotFound);
  return <Bench key={id} data={JSON.parse(JSON.stringify(data)) as typeof data} />;
}
