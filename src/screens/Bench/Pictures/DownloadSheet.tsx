'use client';

import { useState } from 'react';
import { picturesNow, type PictureChoice } from '@/bench/picturing';
import { Check } from '@/ui/Check';
import { Select } from '@/ui/Select';
import { Sheet } from '@/ui/Sheet';
import { count } from '@/core/words/count';
import { useDesk } from '../desk';
import { downloadHref, type DownloadForm } from './view';

const OWN = '';

interface DownloadSheetProps {
  readonly open: boolean;
  readonly onClose: () => void;
  readonly choice: PictureChoice;
}

/** All pictures in one ZIP: as a store takes them, or in a form of one's own. They are made for this and not kept twice. */
export function DownloadSheet({ open, onClose, choice }: DownloadSheetProps) {
  const { data, doc } = useDesk('data', 'doc');
  const [form, setForm] = useState<DownloadForm>({
    storeId: choice.storeId ?? null,
    format: 'jpeg',
    side: '',
    square: false,
    white: false,
  });
  const store = data.stores.find((one) => one.id === form.storeId);
  const total = picturesNow(doc, { ...choice, storeId: form.storeId ?? undefined }).length;
  const taken = store?.demands.pictureFormat;
  const change = (part: Partial<DownloadForm>) => setForm((before) => ({ ...before, ...part }));
  return (
    <Sheet open={open} onClose={onClose} title="Download pictures">
      <div className="grid gap-3 text-small">
        <Select
          label="For"
          value={form.storeId ?? OWN}
          choices={[{ value: OWN, name: 'myself' }, ...data.stores.map(({ id, name }) => ({ value: id, name }))]}
          onChange={(id) => change({ storeId: id === OWN ? null : id })}
        />
        {taken ? (
          <p className="text-muted">
            {store?.channelName} takes {taken.format.toUpperCase()}
            {taken.longSideMaxPx ? `, up to ${taken.longSideMaxPx} px on the longer side` : ''}
            {taken.squareOn ? `, ${taken.cropped ? 'cropped' : 'filled up'} to a square` : ''}
            {taken.pureWhite ? ', on pure white' : ''}
            {taken.maxBytes ? `, up to ${Math.round(taken.maxBytes / 1e6)} MB each` : ''}.
          </p>
        ) : (
          <>
            <span className="flex gap-6">
              <Select
                label="Format"
                value={form.format}
                choices={[
                  { value: 'jpeg', name: 'JPEG, small files' },
                  { value: 'png', name: 'PNG, without loss' },
                  { value: 'webp', name: 'WebP, smallest' },
                ]}
                onChange={(format) => change({ format })}
              />
              <Select
                label="Longer side"
                value={form.side}
                choices={[
                  { value: '', name: 'as large as they are' },
                  { value: '2048', name: '2048 px' },
                  { value: '1200', name: '1200 px' },
                  { value: '800', name: '800 px' },
                ]}
                onChange={(side) => change({ side })}
              />
            </span>
            <Check on={form.square} onChange={(square) => change({ square })}>
              Square, filled up with white
            </Check>
            <Check on={form.white} onChange={(white) => change({ white })}>
              Everything around the good pure white
            </Check>
          </>
        )}
        <p className="mt-2">
          <a
            href={downloadHref(data.product.id, null, form)}
            download
            className="inline-block rounded-paper bg-primary px-3 py-1.5 text-small font-semibold text-sheet hover:bg-primary-deep"
          >
            Download {count(total, 'picture')} as ZIP
          </a>
        </p>
      </div>
    </Sheet>
  );
}
