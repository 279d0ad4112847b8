'use client';

import { Trash2 } from 'lucide-react';
import { formatAmount, money, parseAmountMinor } from '@/core/pricing/money';
import type { OwnCosts as Costs } from '@/core/pricing/own-costs';
import { Button } from '@/ui/Button';
import { EntryField } from '@/ui/Field';
import { IconButton } from '@/ui/IconButton';
import { HEAD, LINE, readPercent, type SectionProps } from './section';

/** What the seller pays beside partners and stores: each is off until it is typed, and a line of its own in the ledger. */
export function OwnCosts({ data, settings, save }: SectionProps) {
  // Sums are typed in the workspace's currency; until one is, none is kept in another.
  const own = { ...settings.own, currency: hasSums(settings.own) ? settings.own.currency : data.currency };
  const put = (part: Partial<Costs>) => save({ ...settings, own: { ...own, ...part } });
  const amount = (minor: number) => formatAmount(money(minor, own.currency));
  const share = (name: Share) => ({ ppm: own[name], put: (ppm: number) => put({ [name]: ppm }) });
  return (
    <section>
      <h2 className={HEAD}>What you pay yourself</h2>
      <ul className="border-t border-hairline text-small">
        <li className={LINE}>
          <EntryField
            label="Items that you sell in a month"
            width="w-16"
            text={String(own.itemsPerMonth)}
            read={(typed) => {
              if (!/^[1-9]\d{0,6}$/.test(typed.trim())) throw new Error('Type a whole number from 1 to 1000000.');
              put({ itemsPerMonth: Number(typed) });
            }}
          />
          <span className="text-muted">Sums by the day and the month are spread over them.</span>
        </li>
        <li className={LINE}>
          <PercentField label="Ads" mostPpm={900_000} after="% of what is paid for items" {...share('adsPpm')} />
          <EntryField
            label={`and by the day, ${own.currency}`}
            width="w-16"
            text={amount(own.adsPerDayMinor)}
            read={(typed) => put({ adsPerDayMinor: sumOf(typed, own.currency) })}
          />
        </li>
        <li className={LINE}>
          <PercentField label="Returns" mostPpm={1_000_000} after="% of items come back" {...share('returnsPpm')} />
          <EntryField
            label={`each loses, ${own.currency}`}
            width="w-32"
            text={own.returnLossMinor === null ? 'making, shipping' : amount(own.returnLossMinor)}
            read={(typed) => put({ returnLossMinor: /^[\d]/.test(typed.trim()) ? sumOf(typed, own.currency) : null })}
          />
        </li>
        <li className={LINE}>
          <PercentField
            label="Input tax"
            mostPpm={1_000_000}
            after="% of making and shipping that you do not get back"
            {...share('inputTaxPpm')}
          />
        </li>
        <Monthly own={own} put={put} />
      </ul>
      <Button
        kind="quiet"
        onClick={() => put({ monthly: [...own.monthly, { label: 'Shop plan', amountMinor: 0 }] })}
        disabled={own.monthly.length >= 20}
      >
        Add a cost by the month
      </Button>
    </section>
  );
}

type Share = 'adsPpm' | 'returnsPpm' | 'inputTaxPpm';

function PercentField({
  label,
  ppm,
  mostPpm,
  after,
  put,
}: {
  label: string;
  ppm: number;
  mostPpm: number;
  after: string;
  put: (ppm: number) => void;
}) {
  return (
    <span>
      <EntryField
        label={label}
        width="w-14"
        text={String(ppm / 10_000)}
        read={(typed) => put(readPercent(typed, 0, mostPpm))}
      />{' '}
      <span className="text-muted">{after}</span>
    </span>
  );
}

/** Costs that come by the month. */
function Monthly({ own, put }: { own: Costs; put: (part: Partial<Costs>) => void }) {
  const change = (at: number, part: Partial<Costs['monthly'][number]>) =>
    put({ monthly: own.monthly.map((one, i) => (i === at ? { ...one, ...part } : one)) });
  return own.monthly.map((one, i) => (
    <li key={i} className={LINE}>
      <EntryField
        label={`Name of monthly cost ${i + 1}`}
        showLabel={false}
        align="left"
        width="w-44"
        text={one.label}
        read={(typed) => {
          if (typed.trim() === '') throw new Error('It needs a name.');
          change(i, { label: typed.trim().slice(0, 60) });
        }}
      />
      <EntryField
        label={`a month, ${own.currency}`}
        width="w-20"
        text={formatAmount(money(one.amountMinor, own.currency))}
        read={(typed) => change(i, { amountMinor: sumOf(typed, own.currency) })}
      />
      <IconButton
        name={`Remove ${one.label}`}
        className="ml-auto"
        onClick={() => put({ monthly: own.monthly.filter((_, j) => j !== i) })}
      >
        <Trash2 size={14} aria-hidden />
      </IconButton>
    </li>
  ));
}

const hasSums = ({ adsPerDayMinor, returnLossMinor, monthly }: Costs): boolean =>
  adsPerDayMinor > 0 || returnLossMinor !== null || monthly.length > 0;

function sumOf(typed: string, currency: string): number {
  const minor = parseAmountMinor(typed, currency);
  if (minor < 0) throw new Error('It is 0 or more.');
  return minor;
}
