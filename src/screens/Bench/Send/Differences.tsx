import { TableHead } from '@/ui/TableHead';
import type { Piece } from '@/core/sync/marked-text';
import type { DifferenceRow, Shown } from './differences';

const MAX = 20;

/** What differs between here and the shop, side by side. */
export function Differences({ rows }: { rows: readonly DifferenceRow[] }) {
  return (
    <>
      <table className="mt-1.5 w-full table-fixed text-small">
        <TableHead
          className="border-b border-hairline"
          columns={[['Field', 'w-[30%] py-1'], 'Here', 'In the shop', ['Changed', 'w-32']]}
        />
        <tbody>
          {rows.slice(0, MAX).map((row, i) => (
            <tr key={`${row.name}/${i}`} className="border-b border-hairline align-top [&>td]:py-1">
              <td className="break-words pr-3">{row.name}</td>
              <td className="break-words pr-3">
                <Side of={row.here} />
              </td>
              <td className="break-words pr-3">
                <Side of={row.there} />
              </td>
              <td>{row.changed}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length > MAX && <p className="mt-1 text-tiny text-muted">and {rows.length - MAX} more</p>}
    </>
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
