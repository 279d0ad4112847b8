'use client';

import { useQuery } from '@tanstack/react-query';
import Link from 'next/link';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { queries } from '@/ui/queries';
import { SEVERITY_WORDS } from '../severity';
import type { ArtworkItem, Use } from './load';

const TONES = { stop: 'text-stop', warn: 'text-caution', note: 'text-muted' } as const;

/** The products that print an artwork, with what the checks say of it there; nothing is asked of one that is on its way out (`asks`). */
export function Uses({ item, problem, asks }: { item: ArtworkItem; problem: string | null; asks: boolean }) {
  const { data: uses, error } = useQuery(
    {
      queryKey: ['artwork', item.id, 'uses', item.products],
      queryFn: () => call<{ products: Use[] }>('GET', `/artwork/${item.id}/uses`).then((answer) => answer.products),
      meta: { topics: ['product'] },
      enabled: asks,
    },
    queries(),
  );
  const says = problem ?? error?.message;
  return (
    <>
      <h2 className="mt-4 font-display text-[17px]">Where it is used</h2>
      {says && <Alert className="mt-2">{says}</Alert>}
      {uses?.length === 0 && <p className="mt-1 text-small text-muted">In no product. It can be deleted.</p>}
      <ul className="mt-1 text-small">
        {uses?.map((use) => (
          <li key={use.productId} className="border-t border-hairline py-1.5">
            <Link href={`/products/${use.productId}`} className="text-primary underline underline-offset-2">
              {use.title}
            </Link>
            <span className="text-muted">
              {' '}
              {use.blank}
              {use.areas.length > 0 && `, ${use.areas.join(', ').toLocaleLowerCase('en')}`}
            </span>
            {use.findings.map((finding) => (
              <span key={finding.id} className="mt-0.5 flex gap-2">
                <span className={`w-14 shrink-0 ${TONES[finding.severity]}`}>{SEVERITY_WORDS[finding.severity]}</span>
                <span>{finding.says}</span>
              </span>
            ))}
          </li>
        ))}
      </ul>
    </>
  );
}
