import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { isTypicaError } from '@/core/errors';
import { BlankPage } from '@/screens/Blank/BlankPage';
import { loadBlankPage } from '@/screens/Blank/load';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Blank' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const { ctx, actor } = await pageActor();
  const data = await loadBlankPage(ctx, actor, (await params).id).catch((error: unknown) => {
    if (isTypicaError(error, 'not-found')) notFound();
    throw error;
  });
  return <BlankPage {...data} />;
}
