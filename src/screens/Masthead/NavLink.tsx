'use client';

import Link from 'next/link';
import { usePathname } from 'next/navigation';

export function NavLink({ href, also, children }: { href: string; also?: string; children: React.ReactNode }) {
  const path = usePathname();
  const here = path.startsWith(href) || (also !== undefined && path.startsWith(also));
  return (
    <Link
      href={href}
      aria-current={here ? 'page' : undefined}
      className={`flex items-center h-full border-b-2 ${here ? 'border-primary' : 'border-transparent text-muted hover:text-ink'}`}
    >
      {children}
    </Link>
  );
}
