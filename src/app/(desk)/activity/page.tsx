import type { Metadata } from 'next';
import { ActivityPage } from '@/screens/Activity/ActivityPage';
import { loadActivity } from '@/screens/Activity/load';
import { addressParams } from '@/screens/address';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Activity' };

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<{ [name: string]: string | string[] | undefined }>;
}) {
  const { ctx, actor } = await pageActor();
  const asked = addressParams(await searchParams);
  return <ActivityPage asked={asked.toString()} {...await loadActivity(ctx, actor, asked.get('product'))} />;
}
