import { Alert } from '@/ui/Alert';
import type { MoneyData } from './load';
import { calendarDay } from '@/ui/when';

/** A share with its sign: "+3.1 %". */
const move = (ppm: number): string => `${ppm < 0 ? '−' : '+'}${(Math.abs(ppm) / 10_000).toFixed(1)} %`;

/** What became of the daily rates: how new they are, what moved far, what was held back, and why none came. */
export function RateFeed({ feed }: { feed: NonNullable<MoneyData['feed']> }) {
  const { newestDate, fault, held, moved } = feed;
  return (
    <div className="text-small mb-2">
      <p className="text-muted">
        Shared rates come automatically on each working day
        {newestDate ? `; the newest are of ${calendarDay(newestDate)}` : '; none has come yet'}. A rate that you set
        lies over them until you delete it.
      </p>
      {fault && <Alert className="mt-1">{fault} Rates stay as they are, and it is tried again within the hour.</Alert>}
      {held.map(({ from, to, rate, date, known, knownDate }) => (
        <Alert key={from + to} className="mt-1">
          {from} to {to} was told as {rate} on {date}, after {known} on {knownDate}. That is held back until a later day
          says the same; set it yourself if it is right.
        </Alert>
      ))}
      {moved.map(({ from, to, rate, before, beforeDate, movePpm }) => (
        <p key={from + to} className="mt-1">
          {from} to {to} moved {move(movePpm)} since {beforeDate}: {before} → {rate}.
        </p>
      ))}
    </div>
  );
}
