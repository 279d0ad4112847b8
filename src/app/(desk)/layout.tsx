import { FocusOnPage } from '@/screens/Masthead/FocusOnPage';
import { LiveDesk } from '@/screens/Masthead/LiveDesk';
import { Masthead } from '@/screens/Masthead/Masthead';
import { newestEvent } from '@/server/events/events';
import { pageActor } from '@/server/http/page';
import { KeysProvider } from '@/ui/keys';

export const dynamic = 'force-dynamic';

export default async function DeskLayout({ children }: { children: React.ReactNode }) {
  const { ctx, actor } = await pageActor();
  const after = await newestEvent(ctx);
  return (
    <KeysProvider>
      <div className="h-dvh flex flex-col">
        <a
          href="#content"
          className="sr-only focus:not-sr-only focus:absolute! focus:left-3 focus:top-2 focus:z-50 focus:rounded-paper focus:border focus:border-ink focus:bg-sheet focus:px-3! focus:py-1.5! focus:text-small"
        >
          Skip to the content
        </a>
        <Masthead personName={actor.personName} workspaceName={actor.workspaceName} />
        <LiveDesk after={after} email={actor.email} personId={actor.personId} />
        <FocusOnPage />
        <main id="content" tabIndex={-1} className="relative flex-1 min-h-0 overflow-auto outline-none">
          {children}
        </main>
      </div>
    </KeysProvider>
  );
}
