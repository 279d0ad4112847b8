'use client';

import type { AnswersChange } from '@/core/listing/answers';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { EntryField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { dayText } from '@/ui/when';
import type { StoreData } from './load';

export interface AskedProps {
  readonly store: StoreData;
  readonly busy: boolean;
  readonly act: (work: () => Promise<unknown>) => Promise<void>;
}

/** Keeps one of the store's standing answers; null takes it back. */
export function answering({ store, act }: AskedProps) {
  return (answers: AnswersChange) => void act(() => call('PATCH', `/stores/${store.id}`, { answers }));
}

/** What the channel asks once and for all: brand and exemption, warehouse, processing time. */
export function Asked(props: AskedProps) {
  const { asks } = props.store;
  if (!asks.codes && !asks.warehouse && !asks.processingDays) return null;
  return (
    <section>
      <h2 className="font-display text-[17px] mb-1.5">What it asks of you</h2>
      <div className="border-t border-hairline">
        {asks.codes && <Exemption {...props} />}
        {asks.warehouse && <Warehouse {...props} />}
        {asks.processingDays && <Processing {...props} range={asks.processingDays} />}
      </div>
    </section>
  );
}

const STATE_WORDS = {
  asked: ['asked for', 'text-muted'],
  granted: ['✓ granted', 'text-kept'],
  refused: ['✕ refused', 'text-stop'],
} as const;

/** Leave to sell without product codes, by brand. */
function Exemption(props: AskedProps) {
  const { store, busy, act } = props;
  const answer = answering(props);
  const { brand } = store.answers;
  const found = store.shop.exemptions?.find((one) => one.brand === brand);
  const [says, look] = found ? STATE_WORDS[found.state] : ['not asked for', 'text-muted'];
  return (
    <div className="border-b border-hairline py-1.5">
      <EntryField
        label="Brand"
        align="left"
        width="w-36"
        text={brand ?? ''}
        read={(typed) => answer({ brand: typed.trim() === '' ? null : typed.trim() })}
      />
      <p className="mt-1 flex items-baseline justify-between gap-2">
        <span>
          Exemption from product codes: <span className={look}>{says}</span>
          {found && <span className="text-muted">, {dayText(found.askedAt)}</span>}
        </span>
        {found?.state === 'asked' ? (
          <Button kind="quiet" disabled={busy} onClick={() => void act(() => call('POST', `/stores/${store.id}/shop`))}>
            Look again
          </Button>
        ) : (
          !found && (
            <Button
              kind="quiet"
              disabled={busy || !brand}
              onClick={() => void act(() => call('POST', `/stores/${store.id}/exemption`))}
            >
              Ask for it
            </Button>
          )
        )}
      </p>
    </div>
  );
}

function Warehouse(props: AskedProps) {
  const { store } = props;
  const answer = answering(props);
  const all = store.shop.warehouses ?? [];
  return (
    <div className="border-b border-hairline py-1.5">
      <Select
        label="Warehouse"
        value={store.answers.warehouse ?? ''}
        choices={[
          { value: '', name: 'not chosen yet' },
          ...all.map(({ id, name, country }) => ({ value: id, name: `${name} (${country})` })),
        ]}
        onChange={(warehouse) => answer({ warehouse: warehouse || null })}
      />
    </div>
  );
}

function Processing({ range, ...props }: AskedProps & { range: { readonly min: number; readonly max: number } }) {
  const answer = answering(props);
  const { processingDays } = props.store.answers;
  const read = (typed: string) => {
    if (typed.trim() === '') return answer({ processingDays: null });
    const days = Number(typed);
    if (!Number.isInteger(days) || days < range.min || days > range.max)
      throw new Error(`Type ${range.min} to ${range.max} days, or nothing.`);
    answer({ processingDays: days });
  };
  return (
    <div className="border-b border-hairline py-1.5">
      <EntryField label="Sent within" width="w-12" text={processingDays ? String(processingDays) : ''} read={read} />{' '}
      <span className="text-muted">days; empty: as the print partner says</span>
    </div>
  );
}
