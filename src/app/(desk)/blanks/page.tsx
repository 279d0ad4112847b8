import type { Metadata } from 'next';
import { addressParams } from '@/screens/address';
import { Blanks } from '@/screens/Blanks/Blanks';
import { loadBlanksScreen } from '@/screens/Blanks/load';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Blanks' };

export default async function BlanksPage({
  searchParams,
}: {
  searchParams: Promise<{ [name: string]: string | string[] | undefined }>;
}) {
  const { ctx, actor } = await pageActor();
  return <Blanks {...await loadBlanksScreen(ctx, actor, addressParams(await searchParams))} />;
}
