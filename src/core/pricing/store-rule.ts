import type { StorePlan } from '../document/document';
import { formatPercent } from './money';
import { isEnding, WAYS, type Ending, type Way } from './rounding';
import type { Aim } from './solve';

/**
 * How a store prices products that have no prices of their own there: at an aim of the store's, or at the prices for all stores and so much more.
 * Absent members follow each product.
 */
export interface StoreRule {
  readonly aim?: Extract<Aim, { readonly ppm: number }>;
  /** Parts per million; only without an aim. */
  readonly differencePpm?: number;
  readonly ending?: Ending;
  readonly way?: Way;
}

/** A rule's aim or difference as it is told: `a margin of 35 %`, `+10 %`. */
export function ruleText({ aim, differencePpm = 0 }: StoreRule): string {
  if (aim) return `a ${aim.kind} of ${formatPercent(aim.ppm)}`;
  return `${differencePpm < 0 ? '−' : '+'}${formatPercent(Math.abs(differencePpm))}`;
}

const MEMBERS = new Set(['aim', 'differencePpm', 'ending', 'way']);
const within = (value: unknown, least: number, most: number): boolean =>
  Number.isInteger(value) && (value as number) >= least && (value as number) <= most;

/** Faults of a rule as sentences; none means that it can be kept. */
export function checkStoreRule(value: object): string[] {
  const rule = value as StoreRule;
  const faults: string[] = [];
  const stranger = Object.keys(rule).find((name) => !MEMBERS.has(name));
  if (stranger !== undefined) faults.push(`A price rule has no “${stranger.slice(0, 40)}”.`);
  if (rule.aim !== undefined) {
    const { kind, ppm } = typeof rule.aim === 'object' && rule.aim !== null ? rule.aim : { kind: null, ppm: null };
    if ((kind !== 'margin' && kind !== 'markup') || Object.keys(rule.aim).length > 2)
      faults.push('A store’s rule aims at a margin or a markup.');
    else if (!within(ppm, 0, kind === 'margin' ? 999_999 : 100_000_000))
      faults.push(kind === 'margin' ? 'A margin is from 0 % to below 100 %.' : 'A markup is from 0 % to 10,000 %.');
    if (rule.differencePpm !== undefined) faults.push('A rule has an aim or a difference, not both.');
  }
  if (rule.differencePpm !== undefined && !within(rule.differencePpm, -900_000, 9_000_000))
    faults.push('A difference is from −90 % to 900 %.');
  if (rule.ending !== undefined && !isEnding(rule.ending))
    faults.push('Prices end in none, ladder, or up to four digits such as .99, 4.99 or 80.');
  if (rule.way !== undefined && !WAYS.includes(rule.way)) faults.push(`Prices go ${WAYS.join(', ')} to their ending.`);
  return faults;
}

/** A product's own plan in a store over the store's rule. A product with an aim, or a difference, of its own there keeps it. */
export function planOver(rule: StoreRule | undefined, own: StorePlan | undefined): StorePlan | undefined {
  if (!rule) return own;
  const { aim, differencePpm, ...rounding } = rule;
  const keeps = own?.aim !== undefined || own?.differencePpm !== undefined;
  const aims = { ...(aim ? { aim } : {}), ...(differencePpm === undefined ? {} : { differencePpm }) };
  return { ...rounding, ...(keeps ? {} : aims), ...own };
}
