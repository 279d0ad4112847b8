import type { ReactNode } from 'react';

/** What went wrong or stands in the way, where it happened: told to a screen reader at once. */
export function Alert({ children, className = '' }: { children: ReactNode; className?: string }) {
  return (
    <p role="alert" className={`border-l-[3px] border-stop pl-2 text-small text-stop ${className}`}>
      {children}
    </p>
  );
}
