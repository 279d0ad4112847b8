import { useState } from 'react';
import { isTypicaError } from '@/core/errors';
import { parseAmountMinor } from '@/core/pricing/money';
import { Button } from '@/ui/Button';
import { Labelled } from '@/ui/Field';
import type { DifferenceRow } from './differences';

const BOX = 'w-full rounded-paper border border-edge bg-sheet px-2 py-1 text-small';

/** What is written in place of what is here and in the shop: a line, a text, or an amount in the store's currency. */
export function WriteOwn({
  kind,
  name,
  begin,
  currency,
  onWrite,
  onLeave,
}: {
  kind: NonNullable<DifferenceRow['writes']>;
  name: string;
  /** What is in it at first. */
  begin: string;
  currency: string;
  onWrite: (value: string | number) => void;
  onLeave: () => void;
}) {
  const [text, setText] = useState(begin);
  const [fault, setFault] = useState<string | null>(null);
  const write = () => {
    if (kind !== 'amount') return onWrite(text.trim());
    try {
      onWrite(parseAmountMinor(text, currency));
    } catch (error) {
      if (!isTypicaError(error)) throw error;
      setFault(error.message);
    }
  };
  const shared = { value: text, className: BOX, autoFocus: true };
  return (
    <form
      className="mt-1"
      onSubmit={(e) => {
        e.preventDefault();
        write();
      }}
      onKeyDown={(e) => {
        if (e.key === 'Escape') onLeave();
      }}
    >
      <Labelled label={kind === 'amount' ? `${name}, ${currency}` : name} error={fault}>
        {({ id, describedBy }) =>
          kind === 'text' ? (
            <textarea
              {...shared}
              id={id}
              aria-describedby={describedBy}
              rows={5}
              onChange={(e) => setText(e.target.value)}
            />
          ) : (
            <input {...shared} id={id} aria-describedby={describedBy} onChange={(e) => setText(e.target.value)} />
          )
        }
      </Labelled>
      <span className="flex gap-3">
        <Button kind="quiet" type="submit">
          Use this
        </Button>
        <Button kind="quiet" onClick={onLeave}>
          Cancel
        </Button>
      </span>
    </form>
  );
}
