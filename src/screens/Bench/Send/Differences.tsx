import { useState } from 'react';
import type { HoldsWhere } from '@/core/document/own-words';
import type { Piece } from '@/core/sync/marked-text';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { TableHead } from '@/ui/TableHead';
import type { DifferenceRow, Shown } from './differences';
import type { SettledField, Settling } from './use-listing';
import { WriteOwn } from './WriteOwn';

const MAX = 40;

const WHERE: readonly { readonly value: HoldsWhere; readonly name: string }[] = [
  { value: 'store', name: 'this store alone' },
  { value: 'everywhere', name: 'all stores' },
];

/**
 * What differs of a listing between what both sides agreed on, what is here and what the shop shows, side by side, with the ways to settle what was changed
 * there. `onSettle` null: nothing can be settled now.
 */
export function Differences({
  rows,
  storeName,
  currency,
  onSettle,
}: {
  rows: readonly DifferenceRow[];
  storeName: string;
  currency: string;
  onSettle: ((settling: Settling) => void) | null;
}) {
  const [where, setWhere] = useState<HoldsWhere>('store');
  const open = onSettle !== null && rows.some(({ toSettle }) => toSettle);
  const settle = (what: Omit<Settling, 'where'>) => onSettle?.({ ...what, where });
  return (
    <>
      {open && (
        <div
          className="mt-1.5 flex flex-wrap items-center gap-x-5 gap-y-1 text-small"
          role="group"
          aria-label={`Settle all of ${storeName}`}
        >
          <Button onClick={() => settle({ all: 'ours' })}>Keep all of ours</Button>
          <Button onClick={() => settle({ all: 'theirs' })}>Take all of theirs</Button>
          <Select label="What is taken holds for" value={where} choices={WHERE} onChange={setWhere} />
        </div>
      )}
      <table className="mt-2 w-full table-fixed text-small">
        <TableHead
          className="border-b border-hairline"
          columns={[['Field', 'w-[17%] py-1'], 'Agreed', 'Here', 'In the shop', ['Changed', 'w-[22%]']]}
        />
        <tbody>
          {rows.slice(0, MAX).map((row, i) => (
            <tr key={`${row.name}/${i}`} className="border-b border-hairline align-top [&>td]:py-1">
              <td className="break-words pr-3">{row.name}</td>
              <td className="break-words whitespace-pre-line pr-3 text-muted">
                <Side of={row.agreed} />
              </td>
              <td className="break-words pr-3">
                <Side of={row.here} />
              </td>
              <td className="break-words pr-3">
                <Side of={row.there} />
              </td>
              <td>
                {row.changed}
                {onSettle && row.toSettle && (
                  <Choices row={row} currency={currency} onSettle={(fields) => settle({ fields })} />
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length > MAX && <p className="mt-1 text-tiny text-muted">and {rows.length - MAX} more</p>}
    </>
  );
}

/** Keep ours, take theirs, or write a third, for the fields of one row. */
function Choices({
  row,
  currency,
  onSettle,
}: {
  row: DifferenceRow;
  currency: string;
  onSettle: (fields: readonly SettledField[]) => void;
}) {
  const [writing, setWriting] = useState(false);
  const all = (how: Omit<SettledField, 'field'>) => onSettle(row.fields.map((field) => ({ field, ...how })));
  if (writing && row.writes)
    return (
      <WriteOwn
        kind={row.writes}
        name={row.name}
        begin={row.begin}
        currency={currency}
        onWrite={(value) => all({ value })}
        onLeave={() => setWriting(false)}
      />
    );
  return (
    <span className="flex flex-wrap gap-x-3 gap-y-0.5">
      <Button kind="quiet" aria-label={`Keep ours: ${row.name}`} onClick={() => all({ hold: 'ours' })}>
        Keep ours
      </Button>
      <Button kind="quiet" aria-label={`Take theirs: ${row.name}`} onClick={() => all({ hold: 'theirs' })}>
        Take theirs
      </Button>
      {row.writes && (
        <Button kind="quiet" aria-label={`Write another: ${row.name}`} onClick={() => setWriting(true)}>
          Write another
        </Button>
      )}
    </span>
  );
}

const MAX_LETTERS = 300;

function Side({ of }: { of: Shown }) {
  if ('pieces' in of && of.pieces) return <Marked pieces={of.pieces} />;
  if ('text' in of) return of.text.length > MAX_LETTERS ? `${of.text.slice(0, MAX_LETTERS).toWellFormed()} …` : of.text;
  if (of.pictures.length === 0) return 'none';
  return (
    <span className="flex flex-wrap gap-1">
      {of.pictures.map((key, i) => (
        <img
          key={key}
          src={`/api/v1/pictures/${encodeURIComponent(key)}`}
          alt={`Picture ${i + 1}`}
          loading="lazy"
          className="size-9 rounded-[2px] border border-hairline bg-board object-cover text-[9px] leading-tight"
        />
      ))}
    </span>
  );
}

/** A text with what is only in it, and not in that of the other side, marked and underlined. */
function Marked({ pieces }: { pieces: readonly Piece[] }) {
  return (
    <span className="whitespace-pre-line">
      {pieces.map(({ text, differs }, i) =>
        differs ? (
          <mark key={i} className="bg-selection text-ink underline decoration-primary decoration-2 underline-offset-2">
            {text}
          </mark>
        ) : (
          text
        ),
      )}
    </span>
  );
}
