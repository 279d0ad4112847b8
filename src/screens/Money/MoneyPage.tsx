'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { MoneySettings } from '@/core/pricing/settings';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { EntryField } from '@/ui/Field';
import { Discounts } from './Discounts';
import type { MoneyData } from './load';
import { Mix } from './Mix';
import { RateFeed } from './RateFeed';
import { RateTable } from './RateTable';
import { Duties } from './Duties';
import { Ladders } from './Ladders';
import { OwnCosts } from './OwnCosts';
import { Rules } from './Rules';
import { HEAD, readPercent } from './section';
import { Taxes } from './Taxes';
import { timeText } from '@/ui/when';

/** Changes that can be undone here. */
const MAX_UNDO = 50;

/** Exchange rates, taxes, duties, discounts, own costs, where the seller sells, ladders and price rules. Everything saves itself. */
export function MoneyPage(data: MoneyData) {
  const router = useRouter();
  const [settings, setSettings] = useState(data.settings);
  const [problem, setProblem] = useState<string | null>(null);
  const [saved, setSaved] = useState<string | null>(null);
  /** Settings as they were before each change that was made on this page. */
  const [undos, setUndos] = useState<readonly MoneySettings[]>([]);
  const put = async (next: MoneySettings): Promise<boolean> => {
    const before = settings;
    setSettings(next);
    try {
      await call('PUT', '/pricing/settings', next);
      setProblem(null);
      setSaved(timeText(new Date()));
      router.refresh();
      return true;
    } catch (error) {
      setSettings(before);
      setProblem((error as Error).message);
      return false;
    }
  };
  const save = (next: MoneySettings) =>
    void put(next).then((kept) => kept && setUndos((all) => [...all.slice(-MAX_UNDO), settings]));
  const undo = () => void put(undos.at(-1)!).then((kept) => kept && setUndos((all) => all.slice(0, -1)));
  const section = { data, settings, save };
  return (
    <div className="mx-auto max-w-[1180px] px-[18px] pt-5 pb-12">
      <div className="flex items-baseline gap-4 mb-4">
        <h1 className="font-display text-[24px] font-semibold">Rates and rules</h1>
        <p className="text-muted">What holds for all prices of this workspace. Prices are in {data.currency}.</p>
        <span className="ml-auto flex items-baseline gap-4 text-small text-muted" role="status">
          {saved && `Saved ${saved}`}
          {undos.length > 0 && (
            <Button kind="quiet" onClick={undo}>
              Undo
            </Button>
          )}
        </span>
      </div>
      {problem && <Alert className="mb-4">{problem}</Alert>}
      <div className="grid grid-cols-2 gap-x-10 gap-y-8 max-[900px]:grid-cols-1">
        <section>
          <h2 className={HEAD}>Exchange rates</h2>
          {data.feed && <RateFeed feed={data.feed} />}
          <RateTable rates={data.rates} currency={data.currency} today={data.today} />
          <div className="mt-3">
            <EntryField
              label="Safety margin on costs"
              width="w-14"
              text={String(settings.rateMarginPpm / 10_000)}
              read={(typed) => save({ ...settings, rateMarginPpm: readPercent(typed, 0, 500_000) })}
            />{' '}
            <span className="text-muted text-small">
              %: what is paid in another currency is counted so much dearer.
            </span>
          </div>
        </section>
        <Mix {...section} />
        <Taxes {...section} />
        <Discounts {...section} />
        <Ladders {...section} />
        <Duties {...section} />
        <OwnCosts {...section} />
        <Rules rules={data.rules} onProblem={setProblem} />
      </div>
    </div>
  );
}
