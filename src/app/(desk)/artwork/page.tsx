import type { Metadata } from 'next';
import { addressParams } from '@/screens/address';
import { ArtworkPage } from '@/screens/Artwork/ArtworkPage';
import { loadArtworkScreen } from '@/screens/Artwork/load';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Artwork' };

export default async function Page({
  searchParams,
}: {
  searchParams: Promise<{ [name: string]: string | string[] | undefined }>;
}) {
  const { ctx, actor } = await pageActor();
  return <ArtworkPage {...await loadArtworkScreen(ctx, actor, addressParams(await searchParams))} />;
}
