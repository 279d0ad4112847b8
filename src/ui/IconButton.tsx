import type { ButtonHTMLAttributes, ReactNode } from 'react';

/** An icon as a button of at least 24 px (WCAG 2.2, 2.5.8), always with a name. */
export function IconButton({
  name,
  title = name,
  children,
  className = '',
  ...rest
}: { name: string; children: ReactNode } & ButtonHTMLAttributes<HTMLButtonElement>) {
  return (
    <button
      type="button"
      aria-label={name}
      title={title}
      className={`inline-grid size-6 shrink-0 place-items-center rounded-paper text-muted hover:text-ink disabled:opacity-40 ${className}`}
      {...rest}
    >
      {children}
    </button>
  );
}
