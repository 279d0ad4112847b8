import { Masthead } from '@/screens/Masthead/Masthead';
import { pageActor } from '@/server/http/page';

export const dynamic = 'force-dynamic';

export default async function DeskLayout({ children }: { children: React.ReactNode }) {
  const { actor } = await pageActor();
  return (
    <div className="h-dvh flex flex-col">
      <Masthead personName={actor.personName} workspaceName={actor.workspaceName} />
      <main className="flex-1 min-h-0 overflow-auto">{children}</main>
    </div>
  );
}
