'use client';

import { Trash2 } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { countryName } from '@/core/country-names';
import type { MoneySettings } from '@/core/pricing/settings';
import { ownEntry } from '@/core/own-entry';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { CountryField } from '@/ui/CountryField';
import { EntryField } from '@/ui/Field';
import { IconButton } from '@/ui/IconButton';
import { SureButton } from '@/ui/SureButton';
import type { MoneyData } from './load';
import { RateFeed } from './RateFeed';
import { RateTable } from './RateTable';
import { Duties } from './Duties';
import { Ladders } from './Ladders';
import { OwnCosts } from './OwnCosts';
import { HEAD, LINE, readPercent } from './section';
import { Taxes } from './Taxes';
import { mixShares } from './view';
import { timeText } from '@/ui/when';

/** Exchange rates, taxes, duties, discounts, own costs, where the seller sells, ladders and price rules. Everything saves itself. */
export function MoneyPage(data: MoneyData) {
  const router = useRouter();
  const [settings, setSettings] = useState(data.settings);
  const [problem, setProblem] = useState<string | null>(null);
  const [saved, setSaved] = useState<string | null>(null);
  const save = async (next: MoneySettings) => {
    const before = settings;
    setSettings(next);
    try {
      await call('PUT', '/pricing/settings', next);
      setProblem(null);
      setSaved(timeText(new Date()));
      router.refresh();
    } catch (error) {
      setSettings(before);
      setProblem((error as Error).message);
    }
  };
  const { mix, discounts } = settings;
  const section = { data, settings, save: (next: MoneySettings) => void save(next) };
  const shares = mixShares(mix);
  const others = (taken: readonly string[]) => data.countries.filter(({ value }) => !taken.includes(value));
  return (
    <div className="mx-auto max-w-[1180px] px-[18px] pt-5 pb-12">
      <div className="flex items-baseline gap-4 mb-4">
        <h1 className="font-display text-[24px] font-semibold">Rates and rules</h1>
        <p className="text-muted">What holds for all prices of this workspace. Prices are in {data.currency}.</p>
        {saved && <span className="ml-auto text-small text-muted">Saved {saved}</span>}
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
              read={(typed) => void save({ ...settings, rateMarginPpm: readPercent(typed, 0, 500_000) })}
            />{' '}
            <span className="text-muted text-small">
              %: what is paid in another currency is counted so much dearer.
            </span>
          </div>
        </section>
        <section>
          <h2 className={HEAD}>Where you sell</h2>
          <p className="text-small text-muted mb-1.5">
            How often each destination comes, as whole numbers of any unit. Prices show what is left on the whole.
          </p>
          <ul className="border-t border-hairline text-small">
            {mix.map((part) => (
              <li key={part.country} className={LINE}>
                <span className="w-44">{countryName(part.country)}</span>
                <EntryField
                  label={`How often to ${countryName(part.country)}`}
                  showLabel={false}
                  width="w-12"
                  text={String(part.weight)}
                  read={(typed) => {
                    if (!/^\d{1,4}$/.test(typed.trim()) || Number(typed) < 1 || Number(typed) > 1000)
                      throw new Error('Type a whole number from 1 to 1000.');
                    void save({
                      ...settings,
                      mix: mix.map((one) => (one === part ? { ...one, weight: Number(typed) } : one)),
                    });
                  }}
                />
                <span className="text-muted">{shares.get(part.country)}</span>
                <IconButton
                  name={`Remove ${countryName(part.country)}`}
                  className="ml-auto"
                  onClick={() => void save({ ...settings, mix: mix.filter((one) => one !== part) })}
                >
                  <Trash2 size={14} aria-hidden />
                </IconButton>
              </li>
            ))}
          </ul>
          <div className="mt-2">
            <CountryField
              key={mix.length}
              label="Add"
              value=""
              choices={others(mix.map(({ country }) => country))}
              onChange={(country) => void save({ ...settings, mix: [...mix, { country, weight: 1 }] })}
            />
            {mix.length === 0 && (
              <span className="text-small text-muted ml-3">Now: {countryName(data.country)} alone.</span>
            )}
          </div>
        </section>
        <Taxes {...section} />
        <section>
          <h2 className={HEAD}>What partners take off for you</h2>
          <ul className="border-t border-hairline text-small">
            {data.partners.map((partner) => (
              <li key={partner.id} className={LINE}>
                <span className="w-44">{partner.name}</span>
                <EntryField
                  label={`Discount of ${partner.name}`}
                  showLabel={false}
                  width="w-14"
                  text={String((ownEntry(discounts, partner.id) ?? 0) / 10_000)}
                  read={(typed) => {
                    const ppm = readPercent(typed, 0, 900_000);
                    const { [partner.id]: _before, ...rest } = discounts;
                    void save({ ...settings, discounts: ppm === 0 ? rest : { ...rest, [partner.id]: ppm } });
                  }}
                />
                <span className="text-muted">% of all making, in every landed cost</span>
              </li>
            ))}
          </ul>
        </section>
        <Ladders {...section} />
        <Duties {...section} />
        <OwnCosts {...section} />
        <section className="col-span-full">
          <h2 className={HEAD}>Price rules</h2>
          {data.rules.length === 0 ? (
            <p className="text-small text-muted">
              A rule is kept from a product: open its part Price, set an aim for all, and keep it by a name.
            </p>
          ) : (
            <ul className="border-t border-hairline text-small">
              {data.rules.map((rule) => (
                <li key={rule.id} className={LINE}>
                  <span className="w-44 font-semibold">{rule.name}</span>
                  <span>{rule.says}</span>
                  {rule.forNew && <span className="text-kept">✓ new products begin with it</span>}
                  <SureButton
                    className="ml-auto"
                    title={`Delete the price rule “${rule.name}”?`}
                    says="Products that it was applied to keep their prices. New products no longer begin with it."
                    act={() =>
                      call('DELETE', `/pricing/rules/${rule.id}`).then(
                        () => router.refresh(),
                        (error: Error) => setProblem(error.message),
                      )
                    }
                  >
                    Delete
                  </SureButton>
                </li>
              ))}
            </ul>
          )}
        </section>
      </div>
    </div>
  );
}
