'use client';

import { useRef, type ReactNode } from 'react';
import { Button } from './Button';

/** Pictures that can be brought, for `accept`. */
export const PICTURE_TYPES = 'image/jpeg,image/png,image/webp';

interface FileButtonProps {
  readonly children: ReactNode;
  readonly kind?: 'primary';
  readonly disabled: boolean;
  /** Media types, as an input has them. */
  readonly accept: string;
  /** What is to be brought, for who does not see the button. */
  readonly label: string;
  readonly onFile: (file: File) => void;
}

/** A button that asks for a file. */
export function FileButton({ children, kind, disabled, accept, label, onFile }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button kind={kind} disabled={disabled} onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        className="sr-only"
        aria-label={label}
        tabIndex={-1}
        onChange={(e) => {
          const file = e.target.files?.[0];
          // So that the same file can be brought again.
          e.target.value = '';
          if (file) onFile(file);
        }}
      />
    </>
  );
}
