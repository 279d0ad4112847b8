'use client';

import { useId, useState, type ReactNode } from 'react';
import type { UseFormRegisterReturn } from 'react-hook-form';

const BOX = 'rounded-paper border border-edge bg-sheet px-2 py-1.5 text-base w-full';

/** A labelled control with room for a hint and an error beside it. */
export function Labelled({
  label,
  hint,
  error,
  lacking,
  children,
}: {
  label: string;
  hint?: ReactNode;
  error?: string | null;
  /** What is still to be done here, in gray: nobody made a mistake yet. */
  lacking?: string | null;
  children: (ids: { id: string; describedBy: string }) => ReactNode;
}) {
  const id = useId();
  const describedBy = `${id}-about`;
  return (
    <div>
      <div className="flex items-baseline justify-between gap-3 mb-1">
        <label htmlFor={id} className="text-small font-medium">
          {label}
        </label>
        {hint && <span className="text-tiny text-muted">{hint}</span>}
      </div>
      {children({ id, describedBy })}
      <p
        id={describedBy}
        className={`text-tiny min-h-0 ${error ? 'text-stop' : 'text-muted'}`}
        role={error ? 'alert' : undefined}
      >
        {error ?? lacking}
      </p>
    </div>
  );
}

export function TextField({
  label,
  hint,
  error,
  lacking,
  value,
  onChange,
  onBlur,
  onEnter,
  type = 'text',
  autoComplete,
  required,
  readOnly,
  autoFocus,
  registered,
}: {
  label: string;
  hint?: ReactNode;
  error?: string | null;
  lacking?: string | null;
  value?: string;
  onChange?: (value: string) => void;
  onBlur?: () => void;
  /** Enter in the field; without it Enter submits the form around. */
  onEnter?: () => void;
  /** The field of a form that keeps its value, in place of `value` and `onChange`. */
  registered?: UseFormRegisterReturn;
  type?: string;
  autoComplete?: string;
  required?: boolean;
  readOnly?: boolean;
  autoFocus?: boolean;
}) {
  return (
    <Labelled label={label} hint={hint} error={error} lacking={lacking}>
      {({ id, describedBy }) => (
        <input
          readOnly={readOnly}
          data-autofocus={autoFocus || undefined}
          id={id}
          aria-describedby={describedBy}
          aria-invalid={Boolean(error)}
          type={type}
          className={BOX}
          value={value}
          autoComplete={autoComplete}
          required={required}
          onChange={(e) => onChange?.(e.target.value)}
          onBlur={onBlur}
          onKeyDown={
            onEnter &&
            ((e) => {
              if (e.key !== 'Enter' || e.nativeEvent.isComposing) return;
              e.preventDefault();
              onEnter();
            })
          }
          {...registered}
        />
      )}
    </Labelled>
  );
}

export function TextArea({
  label,
  hint,
  error,
  lacking,
  value,
  onChange,
  onBlur,
  rows = 5,
}: {
  label: string;
  hint?: ReactNode;
  error?: string | null;
  lacking?: string | null;
  value: string;
  onChange: (value: string) => void;
  onBlur?: () => void;
  rows?: number;
}) {
  return (
    <Labelled label={label} hint={hint} error={error} lacking={lacking}>
      {({ id, describedBy }) => (
        <textarea
          id={id}
          aria-describedby={describedBy}
          rows={rows}
          className={`${BOX} resize-y`}
          value={value}
          aria-invalid={Boolean(error)}
          onChange={(e) => onChange(e.target.value)}
          onBlur={onBlur}
        />
      )}
    </Labelled>
  );
}

/**
 * A number that is typed with its unit and stepped with the arrow keys. What is typed is read when the field is left or Enter is pressed;
 * what cannot be read stays in the field with the reason, and nothing is changed.
 */
export function EntryField({
  label,
  text,
  read,
  step,
  className = '',
  width = 'w-20',
  showLabel = true,
  align = 'right',
}: {
  label: string;
  /** The value as shown while nobody types. */
  text: string;
  /** Takes in what was typed; throws with a sentence when it cannot be read. */
  read: (typed: string) => void;
  step?: (by: number) => void;
  className?: string;
  width?: string;
  showLabel?: boolean;
  align?: 'left' | 'right';
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const id = useId();
  const take = () => {
    if (typed === null || typed === text) return setTyped(null);
    try {
      read(typed);
      setTyped(null);
      setError(null);
    } catch (problem) {
      setError((problem as Error).message);
    }
  };
  return (
    <span className={`relative inline-flex items-baseline gap-1.5 ${className}`}>
      <label htmlFor={id} className={showLabel ? 'text-small text-muted' : 'sr-only'}>
        {label}
      </label>
      <input
        id={id}
        className={`${width} ${align === 'right' ? 'text-right font-mono' : ''} min-h-6 text-small bg-transparent border-b border-edge hover:border-muted focus:border-primary px-0.5 py-0.5 ${error ? 'text-stop border-stop' : ''}`}
        value={typed ?? text}
        aria-invalid={error !== null}
        aria-errormessage={error ? `${id}-error` : undefined}
        onChange={(e) => setTyped(e.target.value)}
        onFocus={(e) => e.currentTarget.select()}
        onBlur={take}
        onKeyDown={(e) => {
          if (e.key === 'Enter') take();
          else if (e.key === 'Escape') {
            // What was typed is given up, and the sheet around it stays open.
            if (typed !== null) e.preventDefault();
            setTyped(null);
            setError(null);
          } else if (step && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) {
            e.preventDefault();
            setTyped(null);
            step((e.key === 'ArrowUp' ? 1 : -1) * (e.shiftKey ? (e.altKey ? 0.1 : 10) : 1));
          }
        }}
      />
      {error && (
        <span
          id={`${id}-error`}
          role="alert"
          className="absolute bottom-full left-0 z-20 w-64 mb-1 rounded-paper border border-stop bg-sheet px-2 py-1 text-tiny text-stop text-left"
        >
          {error}
        </span>
      )}
    </span>
  );
}
