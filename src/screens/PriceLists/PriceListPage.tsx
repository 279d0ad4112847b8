'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect } from 'react';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { useEvents } from '@/ui/events';
import { useAct } from '@/ui/use-act';
import { isOpen, jobLine, type JobView } from '../Masthead/jobs';
import { Changes } from './Changes';
import { Effects } from './Effects';
import { FaultTable } from './FaultTable';
import type { ListView, PriceListData } from './load';
import { effectGroups, faultLines, stateWords, totalTexts } from './view';
import { calendarDay } from '@/ui/when';

const ASK_MS = 2000;
/** What is said of a list that applies no more. */
const ENDED = new Map<ListView['state'], string>([
  [
    'undone',
    'This list was applied and then undone; what was in force before it applies again. It stays for the record.',
  ],
  ['dropped', 'This list was discarded; nothing of it applies. Upload the file again if you want it after all.'],
]);
const TONES = { stop: 'text-stop', caution: 'text-caution', kept: 'text-kept', muted: 'text-muted' } as const;

/** One price list: how far it is read, its faults or what it changes, and whether it is taken. */
export function PriceListPage(data: PriceListData) {
  const router = useRouter();
  const { list, job } = data;
  const { act, busy, problem } = useAct();
  useFreshList(list, job);
  const change = (work: () => Promise<unknown>) => void act(() => work().then(() => router.refresh()));
  return (
    <div className="px-[18px] pt-3 pb-10 max-w-6xl">
      <p className="text-small">
        <Link href="/blanks" className="text-primary underline underline-offset-2">
          Blanks
        </Link>{' '}
        <span className="text-muted">/</span>{' '}
        <Link href="/blanks/price-lists" className="text-primary underline underline-offset-2">
          Partners’ price lists
        </Link>
      </p>
      <div className="flex items-start gap-6">
        <div className="min-w-0 flex-1">
          <h1 className="font-display text-[24px] font-semibold">
            {list.partnerName}, from {calendarDay(list.validFrom)}
          </h1>
          <p className="text-small text-muted">
            {[list.fileName, list.by && `uploaded by ${list.by}`, `amounts in ${list.currency}`, stateWords(list)]
              .filter(Boolean)
              .join(', ')}
          </p>
        </div>
        <Steps
          list={list}
          busy={busy}
          onPost={(step) => change(() => call('POST', `/price-lists/${list.id}/${step}`))}
          onDiscard={() =>
            void act(() => call('DELETE', `/price-lists/${list.id}`).then(() => router.push('/blanks/price-lists')))
          }
        />
      </div>
      {problem && <Alert className="mt-3">{problem}</Alert>}
      {list.state === 'reading' && job && (
        <Reading job={job} acting={busy} onStep={(step) => change(() => call('POST', `/jobs/${job.id}/${step}`))} />
      )}
      {ENDED.has(list.state) && <p className="mt-4">{ENDED.get(list.state)}</p>}
      {list.report?.remarks.map((remark) => (
        <p key={remark} className="mt-3 border-l-[3px] border-caution pl-2 text-small">
          {remark}
        </p>
      ))}
      {list.state === 'faulty' && list.report && <Faults list={list} />}
      {list.report?.totals && <Report list={list} report={list.report} totals={list.report.totals} />}
    </div>
  );
}

/** Keeps the page as new as what is known of the list. */
function useFreshList({ state, jobId }: ListView, job: JobView | null): void {
  const router = useRouter();
  useEvents((topic, payload) => {
    const ofList = topic === 'job' && state === 'reading' && payload.jobId === jobId;
    if (topic === 'catalog' || topic === 'reset' || ofList) router.refresh();
  });
  // An event that came before this page listened is not told again: while it is read, the page also asks by itself.
  const reading = state === 'reading' && job !== null && isOpen(job);
  useEffect(() => {
    if (!reading) return;
    const timer = setInterval(() => router.refresh(), ASK_MS);
    return () => clearInterval(timer);
  }, [reading, router]);
}

/** What can be done with a list as it stands. */
function Steps({
  list,
  busy,
  onPost,
  onDiscard,
}: {
  list: ListView;
  busy: boolean;
  onPost: (step: 'take' | 'undo') => void;
  onDiscard: () => void;
}) {
  return (
    <div className="flex shrink-0 gap-3 pt-1">
      {list.state === 'ready' && (
        <Button kind="primary" disabled={busy} onClick={() => onPost('take')}>
          {takeWords(list)}
        </Button>
      )}
      {list.state === 'taken' && list.by !== null && (
        <Button disabled={busy} onClick={() => onPost('undo')}>
          Undo it
        </Button>
      )}
      {['reading', 'ready', 'faulty'].includes(list.state) && (
        <Button disabled={busy} onClick={onDiscard}>
          Discard
        </Button>
      )}
    </div>
  );
}

type ReportView = NonNullable<ListView['report']>;

/** What the list changes: in all, for one's products, blank by blank. */
function Report({
  list,
  report,
  totals,
}: {
  list: ListView;
  report: ReportView;
  totals: NonNullable<ReportView['totals']>;
}) {
  return (
    <>
      <p className="mt-4 flex flex-wrap gap-x-6 gap-y-1 border-y border-hairline py-2 text-small">
        {totalTexts(totals).map(({ text, tone }) => (
          <span key={text} className={TONES[tone]}>
            {text}
          </span>
        ))}
      </p>
      <h2 className="mt-5 mb-1.5 font-display text-[18px]">
        {list.state === 'taken' ? 'What it did to your products' : 'What it would do to your products'}
      </h2>
      <Effects groups={effectGroups(report.effects)} />
      <h2 className="mt-6 mb-1.5 font-display text-[18px]">What changes, blank by blank</h2>
      <Changes listId={list.id} blanks={report.blanks} names={list.blankNames} />
    </>
  );
}

/** The button says what one takes on with it. */
function takeWords(list: ListView): string {
  const losing = new Set(list.report?.effects.filter((e) => e.kind === 'loss').map((e) => e.productId)).size;
  if (losing === 0) return 'Apply this price list';
  return `Apply it, with ${losing === 1 ? '1 product' : `${losing} products`} below cost`;
}

function Reading({
  job,
  acting,
  onStep,
}: {
  job: JobView;
  acting: boolean;
  onStep: (step: 'retry' | 'cancel') => void;
}) {
  const open = isOpen(job);
  return (
    <div className="mt-5 max-w-xl" role="status">
      <p className={`text-small ${job.state === 'failed' ? 'text-stop' : ''}`}>{jobLine(job, 0)}</p>
      {open && job.progressTotal > 0 && (
        <progress
          aria-label="How far the file is read"
          className="my-1.5 h-1.5 w-full accent-primary"
          value={job.progressDone}
          max={job.progressTotal}
        />
      )}
      <Button disabled={acting} onClick={() => onStep(open ? 'cancel' : 'retry')}>
        {open ? 'Stop' : 'Read it again'}
      </Button>
    </div>
  );
}

function Faults({ list }: { list: ListView }) {
  const { faults, more } = faultLines(list.report!.faults);
  const n = list.report!.faultCount;
  return (
    <section className="mt-4">
      <h2 className="mb-1.5 font-display text-[18px] text-stop">
        {n === 1 ? '1 error' : `${n.toLocaleString('en')} errors`}; nothing was changed
      </h2>
      <p className="mb-2 text-small">
        Fix the file and upload it again: a list is applied whole or not at all. The headings are line 1.
      </p>
      <FaultTable faults={faults} />
      {more.map((text) => (
        <p key={text} className="mt-1 text-small text-muted">
          {text}
        </p>
      ))}
    </section>
  );
}
