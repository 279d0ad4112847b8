import type { Blank } from '@/core/catalog/blank';
import { Swatch } from '@/ui/Mark';
import { stockTable } from './view';

/** Fewer than this is worth a second look before it is sold. */
const FEW = 20;

/** What the partner says is there: colors down, sizes across. */
export function Stock({ blank }: { blank: Blank }) {
  const { columns, rows } = stockTable(blank);
  return (
    <table className="text-small">
      <thead>
        <tr className="border-y border-hairline text-muted">
          <th className="font-normal text-left py-1 pr-8">Variant</th>
          {columns.map((column) => (
            <th key={column} className="font-normal text-right min-w-16 pl-3">
              {column}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.color?.code ?? 'only'} className="border-b border-hairline">
            <th className="font-normal text-left py-1 pr-8 whitespace-nowrap">
              {row.color ? (
                <span className="inline-flex items-center gap-2">
                  <Swatch hex={row.color.hex ?? '#fff'} name={row.color.name} />
                  {row.color.name}
                </span>
              ) : (
                'All'
              )}
            </th>
            {row.cells.map((cell, i) => (
              <td key={columns[i]} className="text-right pl-3 whitespace-nowrap">
                {!cell ? (
                  '–'
                ) : cell.ended ? (
                  <span className="text-stop">ended</span>
                ) : cell.count === 0 ? (
                  <span className="text-stop">out</span>
                ) : cell.count < FEW ? (
                  <span className="text-caution">few, {cell.count}</span>
                ) : (
                  cell.count
                )}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
