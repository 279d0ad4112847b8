import Link from 'next/link';
import { NavLink } from './NavLink';
import { PersonMenu } from './PersonMenu';
import { RunningWork } from './RunningWork';

/** The strip at the top of every page: where one is, what runs, who one is. */
export function Masthead({ personName, workspaceName }: { personName: string; workspaceName: string }) {
  return (
    <header className="h-11 shrink-0 flex items-center gap-7 px-[18px] bg-paper border-b border-hairline">
      <Link href="/" className="font-display text-[21px] font-semibold leading-none">
        Typica
      </Link>
      <nav aria-label="Places" className="flex h-full gap-5">
        <NavLink href="/blanks">Blanks</NavLink>
        <NavLink href="/artwork">Artwork</NavLink>
        <NavLink href="/range" also="/products">
          Range
        </NavLink>
        <NavLink href="/stores">Stores</NavLink>
      </nav>
      <div className="ml-auto flex items-center gap-4">
        <RunningWork />
        <PersonMenu personName={personName} workspaceName={workspaceName} />
      </div>
    </header>
  );
}
