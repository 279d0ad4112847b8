'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useRef } from 'react';
import { count } from '@/core/words/count';
import { planWords, sumOfSteps } from '@/core/words/send-words';
import { useEvents } from '@/ui/events';
import { dayAndTime } from '@/ui/when';
import type { SendData } from './load';
import { Begin } from './Begin';
import { Fixable } from './Fixable';
import { Going } from './Going';
import { Halted } from './Halted';
import { ItemTable } from './ItemTable';
import { StoreTable } from './StoreTable';
import { sendState, sumOfProgress, VISIBILITY_WORDS } from './view';

/** The page is read anew at most this often, ms. */
const REFRESH_MS = 500;

/** Many listings that are sent together: what would be sent, before anything is; then how far it is. */
export function SendPage({ now, ...data }: SendData & { now: number }) {
  const { send, items, from, next } = data;
  const router = useRouter();
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const refresh = () => router.refresh();
  useEvents((topic) => {
    if (!['send', 'job', 'reset'].includes(topic) || timer.current) return;
    timer.current = setTimeout(() => {
      timer.current = null;
      refresh();
    }, REFRESH_MS);
  });
  const progress = sumOfProgress(send.stores.map((store) => store.progress));
  const state = sendState(send, progress.open, now);
  return (
    <div className="mx-auto max-w-[1180px] px-[18px] pt-5 pb-12 text-small">
      <p className="text-muted mb-1">
        <Link className="text-primary underline" href="/range">
          Range
        </Link>{' '}
        ·{' '}
        <Link className="text-primary underline" href="/sends">
          Sends
        </Link>
      </p>
      <h1 className="font-display text-[24px] font-semibold">
        Send {count(send.total, 'listing')} <span className="font-sans text-small font-normal text-muted">{state}</span>
      </h1>
      <p className="text-base mt-1">
        {send.unseen > 0
          ? `${count(send.total - send.unseen, 'listing')} of ${send.total.toLocaleString('en')} looked at …`
          : planWords(sumOfSteps(send.stores), send.visibility)}
      </p>
      <p className="text-muted mb-4">
        By {send.by}, {dayAndTime(send.madeAt)}: {VISIBILITY_WORDS[send.visibility]}.
      </p>
      {send.halted !== null && <Halted sendId={send.id} says={send.halted} onDone={refresh} />}
      {state === 'planned' ? (
        <Begin send={send} onDone={refresh} />
      ) : (
        <Going send={send} state={state} progress={progress} onDone={refresh} />
      )}
      <StoreTable send={send} begun={state !== 'planned'} />
      {state === 'planned' && send.unseen === 0 && send.stores.some(({ steps }) => steps.stopped) && (
        <Fixable send={send} onDone={refresh} />
      )}
      <ItemTable send={send} items={items} from={from} next={next} />
    </div>
  );
}
