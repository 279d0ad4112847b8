'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { FileButton } from '@/ui/FileButton';
import { SureButton } from '@/ui/SureButton';
import type { MoneyData } from './load';
import { calendarDay } from '@/ui/when';

/** How old a rate is; nothing for one of the last days. */
function ageText(date: string, today: string): string {
  const days = Math.round((Date.parse(today) - Date.parse(date)) / 86_400_000);
  return days <= 3 ? '' : days < 60 ? `${days} days old` : `${Math.round(days / 30)} months old`;
}

const BOX = 'border-b border-edge bg-transparent px-0.5 py-0.5 font-mono text-small focus:border-primary';

/** Rates in force with their day; own ones lie over the shared ones. They are typed, or brought as a file. */
export function RateTable({ rates, currency, today }: Pick<MoneyData, 'rates' | 'currency' | 'today'>) {
  const router = useRouter();
  const [problem, setProblem] = useState<string | null>(null);
  const [jump, setJump] = useState(false);
  const [sure, setSure] = useState(false);
  const [typed, setTyped] = useState({ from: currency, to: '', rate: '', date: today });
  const act = (what: Promise<unknown>) =>
    what.then(
      () => {
        setProblem(null);
        setJump(false);
        setSure(false);
        router.refresh();
      },
      (error: Error) => {
        setProblem(error.message);
        setJump((error as { code?: string }).code === 'rate-jump');
      },
    );
  const field = (name: keyof typeof typed, label: string, width: string) => (
    <label className="inline-flex flex-col text-tiny text-muted">
      {label}
      <input
        className={`${BOX} ${width} text-ink`}
        value={typed[name]}
        onChange={(e) =>
          setTyped({
            ...typed,
            [name]: name === 'from' || name === 'to' ? e.target.value.toUpperCase() : e.target.value,
          })
        }
      />
    </label>
  );
  return (
    <>
      <table className="w-full text-small">
        <thead className="text-muted text-left border-y border-hairline">
          <tr>
            <th className="font-normal py-1.5">One</th>
            <th className="font-normal text-right">is</th>
            <th className="font-normal pl-2" aria-label="Currency" />
            <th className="font-normal">On</th>
            <th className="font-normal">From</th>
            <th>
              <span className="sr-only">Actions</span>
            </th>
          </tr>
        </thead>
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
                  <SureButton
                    title={`Delete your rate from ${rate.from} to ${rate.to}?`}
                    says="The shared rate holds again, and prices follow it."
                    act={() => act(call('DELETE', `/rates/${rate.from}-${rate.to}`))}
                  >
                    Delete
                  </SureButton>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {problem && <Alert className="mt-2">{problem}</Alert>}
      <form
        className="flex flex-wrap items-end gap-x-4 gap-y-2 mt-3"
        onSubmit={(e) => {
          e.preventDefault();
          void act(call('POST', '/rates', { ...typed, rate: typed.rate.replace(',', '.'), ...(sure ? { sure } : {}) }));
        }}
      >
        {field('from', 'One unit of', 'w-14')}
        {field('rate', 'is', 'w-24')}
        {field('to', 'of', 'w-14')}
        {field('date', 'on the day', 'w-28')}
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
        <FileButton
          disabled={false}
          accept=".csv,text/csv"
          label="Rates from CSV"
          onFile={(file) =>
            void act(
              fetch('/api/v1/rates/file', { method: 'POST', headers: { 'content-type': 'text/csv' }, body: file }).then(
                async (answer) => {
                  if (!answer.ok)
                    throw new Error(((await answer.json()) as { detail?: string }).detail ?? 'The file was rejected.');
                },
              ),
            )
          }
        >
          From CSV …
        </FileButton>
      </form>
      <p className="text-tiny text-muted mt-1">A file has the columns from, to, rate and date.</p>
    </>
  );
}
