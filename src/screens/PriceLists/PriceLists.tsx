'use client';

import { countryName } from '@/core/country-names';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Alert } from '@/ui/Alert';
import { upload } from '@/ui/api';
import { useEvents } from '@/ui/events';
import type { PriceListsData } from './load';
import { stateWords } from './view';
import { TableHead } from '@/ui/TableHead';
import { calendarDay, dayText } from '@/ui/when';

/** Partners with the prices that hold, and where a new list is brought in. */
export function PriceLists({ partners, lists }: PriceListsData) {
  const router = useRouter();
  useEvents((topic) => {
    if (['catalog', 'job', 'reset'].includes(topic)) router.refresh();
  });
  return (
    <div className="px-[18px] pt-3 pb-10 max-w-6xl">
      <p className="text-small">
        <Link href="/blanks" className="text-primary underline underline-offset-2">
          Blanks
        </Link>
      </p>
      <h1 className="font-display text-[24px] font-semibold">Partners’ price lists</h1>
      <p className="max-w-2xl text-small text-muted mb-4">
        A list that you upload is checked row by row and shown with all that it changes before you apply it. It then
        holds in this workspace alone, from its day on. The columns are{' '}
        <code className="font-mono">sku, cost, currency</code> and, where you have them,{' '}
        <code className="font-mono">stock, ended</code>; an export has them all.
      </p>
      <Partners partners={partners} />
      <h2 className="mt-8 mb-1.5 font-display text-[18px]">All lists</h2>
      <AllLists lists={lists} />
    </div>
  );
}

/** Each partner with the prices that hold. */
function Partners({ partners }: Pick<PriceListsData, 'partners'>) {
  return (
    <table className="w-full text-small">
      <TableHead
        className="border-y border-hairline"
        columns={[
          ['Print partner', 'py-1.5'],
          ['Blanks', 'text-right'],
          ['Variants', 'text-right'],
          ['In force', 'pl-8'],
          'Export',
          'Upload a new list',
        ]}
      />
      <tbody>
        {partners.map((partner) => (
          <tr key={partner.id} className="border-b border-hairline align-top">
            <td className="py-2">
              <span className="font-semibold">{partner.name}</span>
              <span className="block text-tiny text-muted">
                {countryName(partner.country)}, charges in {partner.currency}
              </span>
            </td>
            <td className="py-2 text-right">{partner.blanks}</td>
            <td className="py-2 text-right">{partner.variants.toLocaleString('en')}</td>
            <td className="py-2 pl-8">
              {partner.inForce ? (
                <>
                  list of {calendarDay(partner.inForce.validFrom)}
                  <span className="block text-tiny text-muted">
                    {partner.inForce.own ? 'your own' : 'shared by all workspaces'}
                    {partner.newerShared &&
                      `; it lies over the partner’s newer one of ${calendarDay(partner.newerShared)}`}
                  </span>
                </>
              ) : (
                <span className="text-muted">none</span>
              )}
            </td>
            <td className="py-2">
              {partner.inForce && (
                <a
                  href={`/api/v1/partners/${partner.id}/price-list`}
                  download
                  aria-label={`Export the price list of ${partner.name} as CSV`}
                  className="inline-grid min-h-6 place-items-center text-primary underline underline-offset-2"
                >
                  CSV
                </a>
              )}
            </td>
            <td className="py-1.5">
              <Bring partnerId={partner.id} name={partner.name} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Every list that was ever here. */
function AllLists({ lists }: Pick<PriceListsData, 'lists'>) {
  return (
    <table className="w-full text-small">
      <TableHead
        className="border-y border-hairline"
        columns={[['Print partner', 'py-1.5'], 'Holds from', 'File', 'Uploaded', 'State']}
      />
      <tbody>
        {lists.map((list) => (
          <tr key={list.id} className="border-b border-hairline">
            <td className="py-1.5">
              {list.workspaceId === null ? (
                list.partnerName
              ) : (
                <Link href={`/blanks/price-lists/${list.id}`} className="font-semibold hover:text-primary">
                  {list.partnerName}
                </Link>
              )}
            </td>
            <td>{calendarDay(list.validFrom)}</td>
            <td className="max-w-64 truncate">
              {list.fileName || <span className="text-muted">with the catalog</span>}
            </td>
            <td className="text-muted">
              {dayText(list.createdAt)}
              {list.by && `, ${list.by}`}
            </td>
            <td className={list.state === 'faulty' ? 'text-stop' : list.state === 'ready' ? 'text-caution' : ''}>
              {stateWords(list)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A file and the day from which it is to hold. */
function Bring({ partnerId, name }: { partnerId: string; name: string }) {
  const router = useRouter();
  const [from, setFrom] = useState('');
  const [share, setShare] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const bring = async (file: File) => {
    setProblem(null);
    setShare(0);
    const params = new URLSearchParams({ name: file.name, ...(from ? { from } : {}) });
    try {
      const { id } = await upload<{ id: string }>(`/partners/${partnerId}/price-lists?${params}`, file, setShare);
      router.push(`/blanks/price-lists/${id}`);
    } catch (error) {
      setProblem((error as Error).message);
      setShare(null);
    }
  };
  return (
    <div className="flex flex-wrap items-center gap-3">
      <label className="inline-block cursor-pointer rounded-paper border border-edge bg-sheet px-3 py-1 hover:border-muted focus-within:outline-2 focus-within:outline-primary">
        {share === null ? 'Choose the CSV file' : `Sending, ${Math.round(share * 100)} %`}
        <input
          type="file"
          accept=".csv,text/csv"
          aria-label={`Price list of ${name}, CSV`}
          data-testid={`bring-${name}`}
          className="sr-only"
          disabled={share !== null}
          onChange={(e) => {
            const file = e.target.files?.[0];
            e.target.value = '';
            if (file) void bring(file);
          }}
        />
      </label>
      <label className="flex items-baseline gap-1.5 text-muted">
        to hold from
        <input
          type="date"
          aria-label={`Day from which the list of ${name} is to hold; today when empty`}
          className="border-b border-edge bg-transparent min-h-6"
          value={from}
          onChange={(e) => setFrom(e.target.value)}
        />
        <span className="text-tiny">{from ? '' : 'today'}</span>
      </label>
      {problem && <Alert className="w-full">{problem}</Alert>}
    </div>
  );
}
