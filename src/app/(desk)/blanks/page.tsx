import type { Metadata } from 'next';
import { Blanks } from '@/screens/Blanks/Blanks';
import { loadBlanksScreen } from '@/screens/Blanks/load';
import { pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Blanks' };

export default async function BlanksPage() {
  const { ctx, actor } = await pageActor();
  return <Blanks {...await loadBlanksScreen(ctx, actor)} />;
}
