'use client';

import { ownEntry } from '@/core/own-entry';
import { formatAmount, money, parseAmountMinor } from '@/core/pricing/money';
import { Button } from '@/ui/Button';
import { EntryField } from '@/ui/Field';
import { TableHead } from '@/ui/TableHead';
import { answering, type AskedProps } from './Asked';

/** What buyers pay for shipping, by parcel class: what the partner takes, or sums of the store's own. */
export function Shipping(props: AskedProps) {
  const { store } = props;
  const own = store.answers.shippingByClass ?? {};
  const chosen = Object.keys(own).length;
  return (
    <details className="mt-6 text-small">
      <summary className="cursor-pointer">
        <h2 className="inline font-display text-[17px]">Shipping that buyers pay</h2>{' '}
        <span className="text-muted">
          {chosen === 0
            ? 'what the print partner takes'
            : `own sums for ${chosen} of ${store.asks.parcels.length} parcels`}
        </span>
      </summary>
      <table className="mt-1.5 w-full">
        <TableHead
          className="border-y border-hairline"
          columns={[
            ['Parcel', 'py-1.5'],
            [`First item, ${store.currency}`, 'text-right'],
            [`Each further, ${store.currency}`, 'text-right'],
            '(As the partner)',
          ]}
        />
        <tbody>
          {store.asks.parcels.map((parcel) => (
            <ParcelRow key={parcel.code} parcel={parcel} {...props} />
          ))}
        </tbody>
      </table>
    </details>
  );
}

function ParcelRow({ parcel, ...props }: AskedProps & { parcel: { readonly code: string; readonly goods: string } }) {
  const { currency, answers } = props.store;
  const answer = answering(props);
  const own = ownEntry(answers.shippingByClass, parcel.code);
  const text = (minor: number | undefined) => (minor === undefined ? '' : formatAmount(money(minor, currency)));
  const put = (first: number, further: number) =>
    answer({ shippingByClass: { [parcel.code]: { firstMinor: first, furtherMinor: further } } });
  return (
    <tr className="border-b border-hairline align-baseline">
      <td className="py-1.5 pr-3">
        <span className="first-letter:uppercase inline-block">{parcel.code}</span>{' '}
        <span className="text-muted">{parcel.goods}</span>
      </td>
      <td className="text-right whitespace-nowrap">
        <EntryField
          label={`First item of a ${parcel.code} parcel`}
          showLabel={false}
          text={text(own?.firstMinor)}
          read={(typed) => {
            const minor = parseAmountMinor(typed, currency);
            put(minor, own?.furtherMinor ?? minor);
          }}
        />
      </td>
      <td className="text-right whitespace-nowrap">
        <EntryField
          label={`Each further item of a ${parcel.code} parcel`}
          showLabel={false}
          text={text(own?.furtherMinor)}
          read={(typed) => {
            const minor = parseAmountMinor(typed, currency);
            put(own?.firstMinor ?? minor, minor);
          }}
        />
      </td>
      <td className="pl-3 text-right">
        {own ? (
          <Button
            kind="quiet"
            aria-label={`Shipping of ${parcel.code} parcels as the partner takes it`}
            onClick={() => answer({ shippingByClass: { [parcel.code]: null } })}
          >
            as the partner
          </Button>
        ) : (
          <span className="text-muted">as the partner</span>
        )}
      </td>
    </tr>
  );
}
