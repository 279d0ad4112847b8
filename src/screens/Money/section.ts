import { isDay } from '@/core/pricing/days';
import { parsePercentPpm } from '@/core/pricing/money';
import type { MoneySettings } from '@/core/pricing/settings';
import type { MoneyData } from './load';

export const HEAD = 'font-display text-[17px] mb-1.5';
export const LINE = 'border-b border-hairline py-1.5 flex flex-wrap items-baseline gap-x-4 gap-y-1';

/** What each section of the page is given: all settings, and what keeps them. */
export interface SectionProps {
  readonly data: MoneyData;
  readonly settings: MoneySettings;
  readonly save: (next: MoneySettings) => void;
}

/** A share that is typed, within bounds. Throws a sentence. */
export function readPercent(typed: string, leastPpm: number, mostPpm: number): number {
  const ppm = parsePercentPpm(typed.replace('−', '-'));
  if (ppm < leastPpm || ppm > mostPpm) throw new Error(`Type from ${leastPpm / 10_000} % to ${mostPpm / 10_000} %.`);
  return ppm;
}

/** A day that is typed, or none where it is left empty. Throws a sentence. */
export function readDay(typed: string): string | undefined {
  const text = typed.trim();
  if (text === '' || /^(always|none)$/i.test(text)) return undefined;
  if (!isDay(text)) throw new Error('Write the day as 2026-11-28, or leave it empty.');
  return text;
}

/** An object without a part that is not said: JSON has no word for that. */
export function withPart<T extends object, K extends keyof T>(whole: T, key: K, value: T[K] | undefined): T {
  const { [key]: _before, ...rest } = whole;
  return (value === undefined ? rest : { ...rest, [key]: value }) as T;
}
