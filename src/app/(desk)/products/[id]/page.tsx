import type { Metadata } from 'next';
import { Bench } from '@/screens/Bench/Bench';
import { loadBench } from '@/screens/Bench/load';
import { PARTS, type Part } from '@/screens/Bench/view';
import { orNotFound, pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Bench' };

export default async function BenchPage({
  params,
  searchParams,
}: {
  params: Promise<{ id: string }>;
  searchParams: Promise<{ part?: string }>;
}) {
  const { ctx, actor } = await pageActor();
  const { id } = await params;
  const data = await loadBench(ctx, actor, id).catch(orNotFound);
  const { part } = await searchParams;
  return (
    <Bench
      key={id}
      data={JSON.parse(JSON.stringify(data)) as typeof data}
      startPart={PARTS.includes(part as Part) ? (part as Part) : 'artwork'}
    />
  );
}
