'use client';

import memoizeOne from 'memoize-one';
import { useMemo } from 'react';
import { useDesk } from './desk';
import { docketLines, type DocketInput } from './docket-lines';
import { useAcceptances } from './Findings/use-findings';
import { partTitle, type Part } from './parts';
import { usePrices } from './Price/priced';
import { useListings } from './use-listings';
import { wordsBreak } from './Words/words';

const TONES = { done: 'text-kept', lacking: 'text-muted', warn: 'text-caution', stop: 'text-stop' } as const;

// All parts ask for the same lines: they are worked out once.
const linesOf = memoizeOne(docketLines, ([now], [before]) =>
  (Object.keys(now) as (keyof DocketInput)[]).every((key) => now[key] === before[key]),
);

function useDocketLine(part: Part) {
  const { data, doc, findings, store } = useDesk('data', 'doc', 'findings', 'store');
  const { priced } = usePrices();
  const acceptances = useAcceptances();
  const { listings } = useListings();
  // What someone took upon themselves is no longer counted.
  const open = useMemo(() => findings.filter((finding) => !acceptances.of(finding)), [findings, acceptances]);
  return linesOf({
    doc,
    blank: data.blank,
    list: data.list,
    findings: open,
    priced,
    currency: store?.currency ?? data.home.currency,
    shots: shotsAbout(data.shots),
    wordsBroken: wordsBreak({ doc, data }),
    listings,
  })[part];
}

const shotsAbout = memoizeOne((shots: ReturnType<typeof useDesk<'data'>>['data']['shots']) =>
  shots.map(({ id, name, angle, chosenOnly, areas }) => ({ id, document: { name, angle, chosenOnly, areas } })),
);

/** A part's name, its present truth, and a check or what it lacks. */
export function DocketText({ part }: { part: Part }) {
  const { data } = useDesk('data');
  const { truth, mark } = useDocketLine(part);
  return (
    <>
      <span className="min-w-0">
        <span className="block font-semibold">{partTitle(part, data.blank)}</span>
        <span className="block text-tiny text-muted max-[900px]:hidden">{truth}</span>
      </span>
      <span className={`text-tiny whitespace-nowrap ${TONES[mark.kind]}`}>
        {mark.kind === 'done' ? <span aria-label="done">✓</span> : mark.text}
      </span>
    </>
  );
}
