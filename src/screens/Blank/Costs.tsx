import type { Blank, PriceList } from '@/core/catalog/blank';
import { formatAmount, formatMoney, money } from '@/core/pricing/money';
import type { RateTable } from '@/core/pricing/rates';
import { Swatch } from '@/ui/Mark';
import { chargeLines, costTable, shippingRows } from './view';
import { calendarDay } from '@/ui/when';

/** What the partner takes for making: base costs by size and color, and what comes on top. */
export function Costs({
  blank,
  list,
  currency,
  rates,
}: {
  blank: Blank;
  list: PriceList;
  currency: string;
  rates: RateTable;
}) {
  const { columns, rows } = costTable(blank, list);
  const charges = chargeLines(blank, list);
  const foreign = list.currency !== currency;
  const here = (amountMinor: number) => formatAmount(rates.convert(money(amountMinor, list.currency), currency));
  return (
    <div className="text-small">
      <table>
        <thead>
          <tr className="border-y border-hairline text-muted">
            <th className="font-normal text-left py-1 pr-8">
              {list.currency}, one printed area included
              {foreign && <span className="block text-tiny">below it in {currency}</span>}
            </th>
            {columns.map((column) => (
              <th key={column} className="font-normal text-right min-w-16 pl-3">
                {column}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr key={row.colors[0]?.code ?? i} className="border-b border-hairline align-top">
              <th className="font-normal text-left py-1 pr-8 max-w-72">
                {rows.length > 1 || row.colors.length > 1 ? (
                  <>
                    <span className="flex flex-wrap gap-[3px] pt-0.5">
                      {row.colors.map((color) => (
                        <Swatch key={color.code} hex={color.hex ?? '#fff'} name={color.name} />
                      ))}
                    </span>
                    <span className="text-tiny text-muted">
                      {row.colors.length > 3
                        ? `${row.colors.length} colors`
                        : row.colors.map((color) => color.name).join(', ')}
                    </span>
                  </>
                ) : (
                  'Base cost'
                )}
              </th>
              {row.costsMinor.map((cost, column) => (
                <td key={columns[column]} className="text-right py-1 pl-3">
                  {cost === null ? '–' : formatAmount(money(cost, list.currency))}
                  {foreign && cost !== null && <span className="block text-tiny text-muted">{here(cost)}</span>}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {charges.length > 0 && (
        <dl className="mt-3 max-w-md">
          {charges.map((charge) => (
            <div key={charge.label} className="flex justify-between gap-6 border-b border-hairline py-1">
              <dt className="first-letter:uppercase">{charge.label}</dt>
              <dd className="whitespace-nowrap">
                {formatMoney(money(charge.amountMinor, list.currency))}
                {foreign && <span className="text-muted"> ({here(charge.amountMinor)})</span>}
              </dd>
            </div>
          ))}
        </dl>
      )}
      <p className="mt-1.5 text-tiny text-muted">Price list of {calendarDay(list.validFrom)}.</p>
    </div>
  );
}

/** What the partner takes for sending, and what the cheapest variant then costs at the door. */
export function Shipping({
  blank,
  list,
  currency,
  country,
  rates,
  discountPpm,
}: {
  blank: Blank;
  list: PriceList;
  currency: string;
  country: string;
  rates: RateTable;
  discountPpm: number;
}) {
  const rows = shippingRows(blank, list, currency, country, rates, discountPpm);
  if (rows.length === 0)
    return <p className="text-small text-muted">The price list has no shipping for parcels of this kind.</p>;
  return (
    <table className="w-full max-w-2xl text-small">
      <thead>
        <tr className="border-y border-hairline text-muted">
          <th className="font-normal text-left py-1">To</th>
          <th className="font-normal text-right">First</th>
          <th className="font-normal text-right whitespace-nowrap">Each further</th>
          <th className="font-normal text-right">Days</th>
          <th className="font-normal text-right whitespace-nowrap">One landed, from</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.to} className={`border-b border-hairline ${row.isHome ? 'font-semibold' : ''}`}>
            <td className="py-1 pr-4">{row.to}</td>
            <td className="text-right whitespace-nowrap">{row.first}</td>
            <td className="text-right whitespace-nowrap pl-4">{row.further}</td>
            <td className="text-right whitespace-nowrap pl-4">{row.days}</td>
            <td className="text-right whitespace-nowrap pl-4">{row.landed}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
