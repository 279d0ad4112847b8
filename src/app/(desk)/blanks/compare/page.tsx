import type { Metadata } from 'next';
import { addressParams } from '@/screens/address';
import { Compare } from '@/screens/Compare/Compare';
import { loadCompare } from '@/screens/Compare/load';
import { orNotFound, pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Compare blanks' };

export default async function ComparePage({
  searchParams,
}: {
  searchParams: Promise<{ [name: string]: string | string[] | undefined }>;
}) {
  const { ctx, actor } = await pageActor();
  const data = await loadCompare(ctx, actor, addressParams(await searchParams)).catch(orNotFound);
  return <Compare {...data} />;
}
