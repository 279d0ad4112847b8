import { LiveDesk } from '@/screens/Masthead/LiveDesk';
import { Masthead } from '@/screens/Masthead/Masthead';
import { newestEvent } from '@/server/events/events';
import { pageActor } from '@/server/http/page';

export const dynamic = 'force-dynamic';

export default async function DeskLayout({ children }: { children: React.ReactNode }) {
  const { ctx, actor } = await pageActor();
  const after = await newestEvent(ctx);
  return (
    <div className="h-dvh flex flex-col">
      <Masthead personName={actor.personName} workspaceName={actor.workspaceName} />
      <LiveDesk after={after} email={actor.email} personId={actor.personId} />
      <main className="flex-1 min-h-0 overflow-auto">{children}</main>
    </div>
  );
}
