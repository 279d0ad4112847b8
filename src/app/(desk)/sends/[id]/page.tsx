import type { Metadata } from 'next';
import { loadSend } from '@/screens/Send/load';
import { SendPage } from '@/screens/Send/SendPage';
import { orNotFound, pageActor } from '@/server/http/page';

export const metadata: Metadata = { title: 'Send many' };

type Props = {
  readonly params: Promise<{ id: string }>;
  readonly searchParams: Promise<{ from?: string | string[] }>;
};

export default async function OneSendPage({ params, searchParams }: Props) {
  const { ctx, actor } = await pageActor();
  const { from } = await searchParams;
  const start = typeof from === 'string' && /^\d{1,6}$/.test(from) ? Number(from) : 0;
  const data = await loadSend(ctx, actor, (await params).id, start).catch(orNotFound);
  return <SendPage {...data} now={ctx.clock.now().getTime()} />;
}
