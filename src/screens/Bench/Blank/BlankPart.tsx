'use client';

import Link from 'next/link';
import type { ReactNode } from 'react';
import { countryName } from '@/core/country-names';
import { ownEntry } from '@/core/own-entry';
import { Areas } from '../../Blank/Areas';
import { Costs, Shipping } from '../../Blank/Costs';
import { SizeGuide } from '../../Blank/SizeGuide';
import { Stock } from '../../Blank/Stock';
import { useDesk } from '../desk';
import { ratesOf } from '../Price/priced';
import { Troubles } from '../Variants/Troubles';

/** What the product is made on: its facts, the exact size of each print area, what the partner takes, and what is there. */
export function BlankPart() {
  const { data, country } = useDesk('data', 'country');
  const rates = ratesOf(data);
  const { blank, list } = data;
  const { currency } = data.home;
  return (
    <div className="px-7 py-5">
      <div className="flex items-baseline gap-4">
        <h2 className="font-display text-[20px] font-semibold">{blank.name}</h2>
        <Link href={`/blanks/${blank.id}`} className="text-small text-primary underline underline-offset-2">
          View blank
        </Link>
      </div>
      <p className="text-muted mb-3">
        {blank.partner.name}, made in {blank.makingDays.min}–{blank.makingDays.max} days, sent from{' '}
        {countryName(blank.shipsFrom)}
      </p>
      <Troubles />
      <p className="mb-3 max-w-3xl">{blank.description}</p>
      <dl className="grid grid-cols-[130px_1fr] gap-y-1 mb-5 text-small">
        {Object.entries(blank.facts).map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-muted">{name}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <Part title="Print areas">
        <Areas blank={blank} />
      </Part>
      <Part title="Base cost">
        <Costs blank={blank} list={list} currency={currency} rates={rates} />
      </Part>
      <Part title="Shipping">
        <Shipping
          blank={blank}
          list={list}
          currency={currency}
          country={country}
          rates={rates}
          discountPpm={ownEntry(data.settings.discounts, blank.partner.id) ?? 0}
        />
      </Part>
      {blank.sizeGuide && (
        <Part title="Size guide">
          <SizeGuide blank={blank} />
        </Part>
      )}
      <Part title="Stock">
        <Stock blank={blank} />
      </Part>
    </div>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mb-6">
      <h3 className="font-display text-[16px] mb-2">{title}</h3>
      <div data-wide className="overflow-x-auto">
        {children}
      </div>
    </section>
  );
}
