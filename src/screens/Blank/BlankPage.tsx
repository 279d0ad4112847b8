'use client';

import Link from 'next/link';
import { useMemo, useState, type ReactNode } from 'react';
import { countryName } from '@/core/country-names';
import { RateTable } from '@/core/pricing/rates';
import { ownEntry } from '@/core/own-entry';
import { Button } from '@/ui/Button';
import { Areas } from './Areas';
import { BlankPicture } from './BlankPicture';
import { Costs, Shipping } from './Costs';
import type { BlankData } from './load';
import { Favorite } from './Favorite';
import { MakeProduct } from './MakeProduct';
import { SizeGuide } from './SizeGuide';
import { SoldList } from './SoldList';
import { Stock } from './Stock';
import { packText, picturedBlank, stockText } from './view';

/** All that is to be known of one blank before anything is drawn. */
export function BlankPage(data: BlankData) {
  const { blank } = data;
  const [pointed, setPointed] = useState<string | null>(null);
  const [bringing, setBringing] = useState(false);
  return (
    <div className="mx-auto grid max-w-[1500px] grid-cols-[minmax(0,1fr)_280px] gap-x-8 max-[900px]:grid-cols-[minmax(0,1fr)] px-[18px] pt-3 pb-10">
      <p className="col-span-full text-small">
        <Link href="/blanks" className="text-primary underline underline-offset-2">
          Blanks
        </Link>{' '}
        <span className="text-muted">/ {blank.kind}</span>
      </p>
      <div className="min-w-0">
        <BlankHead data={data} pointed={pointed} />
        <Section title="Print areas">
          <Areas blank={blank} />
        </Section>
        <CostSections data={data} />
        {blank.sizeGuide && (
          <Section title="Size guide">
            <SizeGuide blank={blank} />
          </Section>
        )}
        <Section title="Stock">
          <Stock blank={blank} />
        </Section>
      </div>
      <aside aria-label="Use this blank" className="border-l border-hairline pl-6 pt-2 space-y-6">
        <MakeProduct blank={blank} onPoint={setPointed} />
        <section aria-labelledby="sold-already">
          <h2 id="sold-already" className="font-display text-[16px] mb-1">
            Sold elsewhere already?
          </h2>
          <p className="text-small text-muted mb-1.5">
            Upload the list of your SKUs, and a product is made with them, without artwork.
          </p>
          <Button onClick={() => setBringing(true)}>From a list of SKUs</Button>
        </section>
        <Uses uses={data.uses} />
      </aside>
      <SoldList blank={blank} open={bringing} onClose={() => setBringing(false)} />
    </div>
  );
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="border-t border-hairline py-4">
      <h2 className="font-display text-[18px] mb-3">{title}</h2>
      <div data-wide className="overflow-x-auto">
        {children}
      </div>
    </section>
  );
}

function BlankHead({ data, pointed }: { data: BlankData; pointed: string | null }) {
  const { blank } = data;
  const set = blank.pieces.length > 1;
  return (
    <header className="flex gap-6 pt-2 pb-5">
      <BlankPicture blank={picturedBlank(blank, data.shotHash)} color={pointed} size={188} className="shrink-0" />
      <div className="min-w-0">
        <span className="mb-1 flex items-center gap-2">
          <h1 className="font-display text-[26px] font-semibold leading-tight">{blank.name}</h1>
          <Favorite blankId={blank.id} name={blank.name} on={data.favorite} />
        </span>
        <p className="text-muted">
          {blank.partner.name}, made in {blank.makingDays.min}–{blank.makingDays.max} days, sent from{' '}
          {countryName(blank.shipsFrom)}, {stockText(blank)}
        </p>
        <p className="my-2 max-w-2xl">{blank.description}</p>
        <dl className="grid grid-cols-[100px_minmax(0,1fr)] gap-y-0.5 text-small">
          {set && (
            <>
              <dt className="text-muted">Pieces</dt>
              <dd>
                {blank.pieces.map((piece) => piece.name).join(', ')}; sold as one thing, each with artwork of its own
              </dd>
            </>
          )}
          {Object.entries(blank.facts).map(([name, value]) => (
            <div key={name} className="contents">
              <dt className="text-muted">{name}</dt>
              <dd>{value}</dd>
            </div>
          ))}
          <dt className="text-muted">Packed</dt>
          <dd>
            {packText(blank)}, parcel class {blank.parcelClass}
          </dd>
        </dl>
      </div>
    </header>
  );
}

/** What it costs made and sent, or where a price list comes from. */
function CostSections({ data }: { data: BlankData }) {
  const { blank, list, currency, country, settings, exchangeRates } = data;
  const rates = useMemo(() => new RateTable(exchangeRates, settings.rateMarginPpm), [exchangeRates, settings]);
  return list ? (
    <>
      <Section title="Base cost">
        <Costs blank={blank} list={list} currency={currency} rates={rates} />
      </Section>
      <Section title="Shipping">
        <Shipping
          blank={blank}
          list={list}
          currency={currency}
          country={country}
          rates={rates}
          discountPpm={ownEntry(settings.discounts, blank.partner.id) ?? 0}
        />
      </Section>
    </>
  ) : (
    <Section title="Base cost">
      <p className="text-small">
        {blank.partner.name} has no price list in force. Upload one under{' '}
        <Link href="/blanks/price-lists" className="text-primary underline underline-offset-2">
          Partners’ price lists
        </Link>
        .
      </p>
    </Section>
  );
}

function Uses({ uses }: Pick<BlankData, 'uses'>) {
  return (
    <section aria-labelledby="used-by">
      <h2 id="used-by" className="font-display text-[16px] mb-1">
        Where you use it
      </h2>
      {uses.length === 0 && <p className="text-small text-muted">No product of yours is made on it yet.</p>}
      <ul className="text-small">
        {uses.map((use) => (
          <li key={use.id} className="border-b border-hairline py-1">
            <Link href={`/products/${use.id}`} className="font-semibold hover:text-primary">
              {use.title}
            </Link>
            <span className="block text-tiny text-muted">
              {use.variants === 1 ? '1 variant' : `${use.variants} variants`}
            </span>
            {use.troubles.map((says) => (
              <span key={says} className="block border-l-[3px] border-caution pl-2 text-tiny text-caution">
                {says}
              </span>
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}
