import type { ReactNode } from 'react';

/** A box to tick with its words behind it. */
export function Check({
  on,
  onChange,
  className = '',
  children,
}: {
  on: boolean;
  onChange: (on: boolean) => void;
  className?: string;
  children: ReactNode;
}) {
  return (
    <label className={`flex min-h-6 items-center gap-1.5 ${className}`}>
      <input
        type="checkbox"
        className="size-3.5 accent-primary"
        checked={on}
        onChange={(e) => onChange(e.target.checked)}
      />
      {children}
    </label>
  );
}
