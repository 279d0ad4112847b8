import { fixedPart } from '@/core/pricing/fees';
import { landedLines, type CostLine } from '@/core/pricing/landed';
import { formatAmount, formatMoney, formatPercent, money } from '@/core/pricing/money';
import type { PricedVariant } from '@/core/pricing/pricer';
import { quote, type Quote, type Terms } from '@/core/pricing/quote';
import { aimText, floorBecause, floorWhy } from './Price/prices';

export interface LedgerLine {
  readonly label: string;
  readonly amount: string;
}

export interface LedgerEntry {
  readonly id: 'retail' | 'shipping-charged' | 'making' | 'shipping' | 'tax' | 'fees' | 'own' | 'left';
  readonly label: string;
  readonly amount: string;
  /** The sum behind it, a line each. */
  readonly behind: readonly LedgerLine[];
  /** The same in a sentence. */
  readonly says: string;
  readonly tone: 'plain' | 'good' | 'bad';
}

/** Each fee with the sum that it is: `Commission, 5 % of 24.00 + 0.20`. */
function feeLines(fees: Quote['fees'], q: Quote, terms: Terms, amount: (minor: number) => string): LedgerLine[] {
  return fees.flatMap(({ fee, ofMinor, taxMinor, amountMinor }) => {
    const fixed = fixedPart(fee, q.items, terms.expectedSales);
    const plain = amountMinor - taxMinor;
    const parts = [
      fee.ratePpm > 0 ? `${fee.ratePpm / 10_000} % of ${amount(ofMinor)}` : null,
      fixed > 0
        ? fee.per === 'listing'
          ? `${amount(fee.fixedMinor)} spread over ${terms.expectedSales} sales`
          : amount(fixed)
        : null,
    ].filter(Boolean);
    const bound =
      fee.minMinor !== undefined && plain === fee.minMinor
        ? ', minimum'
        : fee.maxMinor !== undefined && plain === fee.maxMinor
          ? ', maximum'
          : '';
    return [
      { label: `${fee.label.split(',')[0]}: ${parts.join(' + ') || 'nothing'}${bound}`, amount: amount(plain) },
      ...(taxMinor > 0 ? [{ label: `Tax on the fee, ${fee.taxPpm! / 10_000} %`, amount: amount(taxMinor) }] : []),
    ];
  });
}

/** What the entries of one ledger are made of. */
interface Reckoned {
  readonly priced: PricedVariant;
  readonly at: Terms;
  readonly q: Quote;
  readonly store: Quote['fees'];
  readonly own: Quote['fees'];
  amount(minor: number): string;
}

const sum = (fees: Quote['fees']) => fees.reduce((total, { amountMinor }) => total + amountMinor, 0);

/** The ledger of one variant at an outlet and a destination: from price to what is left. Each amount opens to the sum behind it. */
export function ledgerEntries(
  priced: PricedVariant,
  at: Terms,
): { entries: LedgerEntry[]; margin: string; floor: string; floorBecause: string; floorWhy: string } {
  const q = quote(at, priced.retailMinor);
  const amount = (minor: number) => formatAmount(money(minor, q.currency));
  const [store, own] = [q.fees.filter(({ fee }) => !fee.own), q.fees.filter(({ fee }) => fee.own)];
  const of: Reckoned = { priced, at, q, store, own, amount };
  return {
    entries: [
      retailEntry(of),
      chargedEntry(of),
      makingEntry(of),
      shippingEntry(of),
      ...taxEntry(of),
      feesEntry(of),
      ...ownEntryOf(of),
      leftEntry(of),
    ],
    margin: q.marginPpm === null ? '–' : formatPercent(q.marginPpm),
    floor: priced.floor.minor === null ? 'none' : amount(priced.floor.minor),
    floorBecause: floorBecause(priced.floor),
    floorWhy: floorWhy(priced.floor, q.currency),
  };
}

const retailEntry = ({ priced: { aim, follows }, q, amount }: Reckoned): LedgerEntry => ({
  id: 'retail',
  label: 'Price',
  amount: amount(q.retailMinor),
  behind: [
    { label: follows ? 'Follows the price for all stores' : `Fixed by you: ${aimText(aim, q.currency)}`, amount: '' },
    { label: 'Price', amount: amount(q.retailMinor) },
  ],
  says: 'What a buyer pays for one.',
  tone: 'plain',
});

function chargedEntry({ at, q, amount }: Reckoned): LedgerEntry {
  const free = at.freeFromMinor !== null && q.itemsMinor >= at.freeFromMinor;
  const label = free
    ? `Free from ${amount(at.freeFromMinor!)} on`
    : at.shippingChargedMinor > 0
      ? 'The buyer pays the partner’s shipping'
      : 'Shipping is in the price';
  return {
    id: 'shipping-charged',
    label: '+ Shipping paid',
    amount: amount(q.shippingChargedMinor),
    behind: [{ label, amount: amount(q.shippingChargedMinor) }],
    says: 'What the buyer pays for sending, on top of the price.',
    tone: 'plain',
  };
}

/** The lines of a landed cost of one kind, with what they are in the partner's currency. */
function costLines({ at, q, amount }: Reckoned, kind: 'making' | 'shipping') {
  const original = (line: CostLine) =>
    line.original.currency === q.currency ? '' : ` (${formatMoney(line.original)})`;
  return landedLines(at.landed)
    .filter((line) => line.kind === kind)
    .map((line) => ({ label: line.label + original(line), amount: amount(line.amountMinor) }));
}

const makingEntry = (of: Reckoned): LedgerEntry => ({
  id: 'making',
  label: '− Making',
  amount: of.amount(of.q.makingMinor),
  behind: costLines(of, 'making'),
  says: 'What the partner takes for making it.',
  tone: 'plain',
});

const shippingEntry = (of: Reckoned): LedgerEntry =>
  of.at.landed.shipsThere
    ? {
        id: 'shipping',
        label: '− Shipping',
        amount: of.amount(of.q.shippingMinor),
        behind: costLines(of, 'shipping'),
        says: 'What the partner takes for sending it.',
        tone: 'plain',
      }
    : {
        id: 'shipping',
        label: '− Shipping',
        amount: '–',
        behind: [{ label: 'The partner does not send there', amount: '–' }],
        says: 'Choose another destination, or a blank whose partner sends there.',
        tone: 'bad',
      };

function taxEntry({ at: { tax }, q, amount }: Reckoned): LedgerEntry[] {
  if (!tax) return [];
  const text = amount(tax.inside ? q.taxMinor : q.taxOnTopMinor);
  const of = amount(q.itemsMinor + q.shippingChargedMinor);
  return [
    {
      id: 'tax',
      label: tax.inside ? '− Tax' : 'Tax on top',
      amount: text,
      behind: [
        {
          label: `${tax.label}, ${tax.ratePpm / 10_000} % ${tax.inside ? 'within' : 'on top of'} ${of}`,
          amount: text,
        },
      ],
      says: tax.inside
        ? 'It is within what the buyer pays, and you hand it on.'
        : 'The buyer pays it on top; it passes through and leaves you nothing.',
      tone: 'plain',
    },
  ];
}

const feesEntry = ({ store, q, at, amount }: Reckoned): LedgerEntry => ({
  id: 'fees',
  label: '− Store takes',
  amount: amount(sum(store)),
  behind: store.length > 0 ? feeLines(store, q, at, amount) : [{ label: 'No store takes anything', amount: amount(0) }],
  says: 'What the store takes of a sale.',
  tone: 'plain',
});

const ownEntryOf = ({ own, amount }: Reckoned): LedgerEntry[] =>
  own.length === 0
    ? []
    : [
        {
          id: 'own',
          label: '− Own costs',
          amount: amount(sum(own)),
          behind: own.map(({ fee, amountMinor }) => ({ label: fee.label, amount: amount(amountMinor) })),
          says: 'What you pay yourself, as Rates and rules says.',
          tone: 'plain',
        },
      ];

const leftEntry = ({ q, at, store, own, amount }: Reckoned): LedgerEntry => ({
  id: 'left',
  label: '= Left',
  amount: amount(q.profitMinor),
  behind: [
    { label: 'Price', amount: amount(q.retailMinor) },
    { label: 'Shipping paid', amount: `+ ${amount(q.shippingChargedMinor)}` },
    { label: 'Making', amount: `− ${amount(q.makingMinor)}` },
    { label: 'Shipping', amount: `− ${amount(q.shippingMinor)}` },
    ...(at.tax?.inside ? [{ label: 'Tax within', amount: `− ${amount(q.taxMinor)}` }] : []),
    { label: 'Store takes', amount: `− ${amount(sum(store))}` },
    ...(own.length > 0 ? [{ label: 'Own costs', amount: `− ${amount(sum(own))}` }] : []),
    { label: 'Left', amount: amount(q.profitMinor) },
  ],
  says:
    q.marginPpm === null
      ? 'What is yours.'
      : `What is yours: ${formatPercent(q.marginPpm)} of the price${q.markupPpm === null ? '' : `, ${formatPercent(q.markupPpm)} of what it costs`}.`,
  tone: q.profitMinor < 0 ? 'bad' : 'good',
});
