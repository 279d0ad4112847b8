import type { CsvFault } from '@/core/csv/fault';

/** What is wrong with a file, by line and column. */
export function FaultTable({ faults }: { faults: readonly CsvFault[] }) {
  return (
    <table className="w-full text-small">
      <thead className="text-left text-muted">
        <tr className="border-y border-hairline">
          <th className="font-normal py-1 pr-4 text-right w-16">Line</th>
          <th className="font-normal pr-4 w-28">Column</th>
          <th className="font-normal">What is wrong</th>
        </tr>
      </thead>
      <tbody>
        {faults.map((fault, i) => (
          <tr key={i} className="border-b border-hairline align-top">
            <td className="py-1 pr-4 text-right">{fault.line}</td>
            <td className="py-1 pr-4 font-mono text-tiny">{fault.column ?? 'whole line'}</td>
            <td className="py-1">{fault.says}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
