/** A column: its heading, or heading and further classes. A heading in parentheses, as `(Actions)`, is only heard. */
export type Column = string | readonly [heading: string, classes: string];

/** The row of headings over a plain table. */
export function TableHead({ columns, className = '' }: { columns: readonly Column[]; className?: string }) {
  return (
    <thead className={`text-left text-muted ${className}`}>
      <tr>
        {columns.map((column) => {
          const [heading, classes] = typeof column === 'string' ? [column, ''] : column;
          const heard = /^\((.+)\)$/.exec(heading)?.[1];
          return (
            <th key={heading} className={`font-normal ${classes}`}>
              {heard ? <span className="sr-only">{heard}</span> : heading}
            </th>
          );
        })}
      </tr>
    </thead>
  );
}
