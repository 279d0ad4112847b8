'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Alert } from '@/ui/Alert';
import { TableHead } from '@/ui/TableHead';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { FileButton } from '@/ui/FileButton';
import { calendarDay } from '@/ui/when';
import { saidWithUndo } from '@/ui/with-undo';
import type { MoneyData } from './load';

type Rate = MoneyData['rates'][number];
type Typed = Pick<Rate, 'from' | 'to' | 'rate' | 'date'>;

/** How old a rate is; nothing for one of the last days. */
function ageText(date: string, today: string): string {
  const days = Math.round((Date.parse(today) - Date.parse(date)) / 86_400_000);
  return days <= 3 ? '' : days < 60 ? `${days} days old` : `${Math.round(days / 30)} months old`;
}

const pathOf = ({ from, to }: Typed) => `/rates/${from}-${to}`;
const set = ({ from, to, rate, date }: Typed, sure = true) =>
  call('POST', '/rates', { from, to, rate, date, ...(sure ? { sure } : {}) });

/** Rates in force with their day; own ones lie over the shared ones. They are typed, or brought as a file. */
export function RateTable({ rates, currency, today }: Pick<MoneyData, 'rates' | 'currency' | 'today'>) {
  const router = useRouter();
  const [problem, setProblem] = useState<string | null>(null);
  /** Does something to rates, then shows them as they are; gives whether it was done, and throws nothing. */
  const act = async (what: () => Promise<unknown>): Promise<Error | null> => {
    try {
      await what();
      setProblem(null);
      router.refresh();
      return null;
    } catch (error) {
      setProblem((error as Error).message);
      return error as Error;
    }
  };
  const remove = async (rate: Rate) => {
    if (await act(() => call('DELETE', pathOf(rate)))) return;
    saidWithUndo(`Your rate from ${rate.from} to ${rate.to} was deleted. The shared one applies.`, () =>
      act(() => set(rate)),
    );
  };
  const put = async (typed: Typed, sure: boolean): Promise<Error | null> => {
    const before = rates.find(({ from, to, own }) => own && from === typed.from && to === typed.to);
    const refused = await act(() => set(typed, sure));
    if (!refused)
      saidWithUndo(`One ${typed.from} is ${typed.rate} ${typed.to} from ${calendarDay(typed.date)} on.`, () =>
        act(async () => {
          await call('DELETE', pathOf(typed));
          if (before) await set(before);
        }),
      );
    return refused;
  };
  return (
    <>
      <InForce rates={rates} today={today} onRemove={(rate) => void remove(rate)} />
      {problem && <Alert className="mt-2">{problem}</Alert>}
      <RateForm currency={currency} today={today} put={put}>
        <FileButton
          disabled={false}
          accept=".csv,text/csv"
          label="Rates from CSV"
          onFile={(file) => void act(() => sendFile(file))}
        >
          From CSV …
        </FileButton>
      </RateForm>
      <p className="text-tiny text-muted mt-1">A file has the columns from, to, rate and date.</p>
    </>
  );
}

async function sendFile(file: File): Promise<void> {
  const answer = await fetch('/api/v1/rates/file', {
    method: 'POST',
    headers: { 'content-type': 'text/csv' },
    body: file,
  });
  if (!answer.ok) throw new Error(((await answer.json()) as { detail?: string }).detail ?? 'The file was rejected.');
}

function InForce({ rates, today, onRemove }: Pick<MoneyData, 'rates' | 'today'> & { onRemove: (rate: Rate) => void }) {
  return (
    <table className="w-full text-small">
      <TableHead
        className="border-y border-hairline"
        columns={[['One', 'py-1.5'], ['is', 'text-right'], ['(Currency)', 'pl-2'], 'On', 'From', '(Actions)']}
      />
      <tbody>
        {rates.map((rate) => (
          <tr key={rate.from + rate.to} className="border-b border-hairline">
            <td className="py-1.5">{rate.from}</td>
            <td className="text-right">{rate.rate}</td>
            <td className="pl-2">{rate.to}</td>
            <td>
              {calendarDay(rate.date)} <span className="text-tiny text-muted">{ageText(rate.date, today)}</span>
            </td>
            <td className="text-muted">{rate.own ? 'you' : 'shared'}</td>
            <td className="text-right">
              {rate.own && (
                <Button
                  kind="quiet"
                  aria-label={`Delete your rate from ${rate.from} to ${rate.to}`}
                  onClick={() => onRemove(rate)}
                >
                  Delete
                </Button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const BOX = 'border-b border-edge bg-transparent px-0.5 py-0.5 font-mono text-small focus:border-primary';
const FIELDS = [
  { name: 'from', label: 'One unit of', width: 'w-14' },
  { name: 'rate', label: 'is', width: 'w-24' },
  { name: 'to', label: 'of', width: 'w-14' },
  { name: 'date', label: 'on the day', width: 'w-28' },
] as const;

/** One rate to type. One that is far from what is in force is asked about once more. */
function RateForm({
  currency,
  today,
  put,
  children,
}: Pick<MoneyData, 'currency' | 'today'> & {
  put: (typed: Typed, sure: boolean) => Promise<Error | null>;
  children: React.ReactNode;
}) {
  const [typed, setTyped] = useState<Typed>({ from: currency, to: '', rate: '', date: today });
  const [jump, setJump] = useState(false);
  const [sure, setSure] = useState(false);
  const submit = async (e: React.FormEvent) => {
    e.preventDefault();
    const refused = await put({ ...typed, rate: typed.rate.replace(',', '.') }, sure);
    setJump((refused as { code?: string } | null)?.code === 'rate-jump');
    setSure(false);
  };
  return (
    <form className="flex flex-wrap items-end gap-x-4 gap-y-2 mt-3" onSubmit={(e) => void submit(e)}>
      {FIELDS.map(({ name, label, width }) => (
        <label key={name} className="inline-flex flex-col text-tiny text-muted">
          {label}
          <input
            className={`${BOX} ${width} text-ink`}
            value={typed[name]}
            onChange={({ target: { value } }) =>
              setTyped({ ...typed, [name]: name === 'from' || name === 'to' ? value.toUpperCase() : value })
            }
          />
        </label>
      ))}
      {jump && (
        <label className="text-small">
          <input
            type="checkbox"
            className="accent-primary"
            checked={sure}
            onChange={(e) => setSure(e.target.checked)}
          />{' '}
          I am sure
        </label>
      )}
      <Button type="submit" disabled={typed.to === '' || typed.rate === ''}>
        Set rate
      </Button>
      {children}
    </form>
  );
}
