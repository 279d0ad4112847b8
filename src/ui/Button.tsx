import type { ButtonHTMLAttributes } from 'react';

type Kind = 'primary' | 'plain' | 'quiet';

const KINDS: Record<Kind, string> = {
  primary: 'bg-primary text-sheet hover:bg-primary-deep disabled:bg-hairline disabled:text-muted font-semibold',
  plain:
    'border border-edge bg-sheet hover:border-ink disabled:border-dashed disabled:text-muted disabled:hover:border-edge',
  quiet:
    'text-primary underline underline-offset-2 hover:text-primary-deep disabled:text-muted disabled:no-underline px-0',
};

/** A button. One primary in a view. */
export function Button({
  kind = 'plain',
  className = '',
  type = 'button',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { kind?: Kind }) {
  return (
    <button
      type={type}
      className={`min-h-6 rounded-paper ${kind === 'quiet' ? '' : 'px-3 py-1.5'} text-small whitespace-nowrap ${KINDS[kind]} ${className}`}
      {...rest}
    />
  );
}
