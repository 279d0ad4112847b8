'use client';

import { ArrowLeft, ArrowRight, Download, Trash2 } from 'lucide-react';
import {
  describePicture,
  movePicture,
  removePictures,
  setMainPicture,
  tiePicture,
  type PictureChoice,
} from '@/bench/picturing';
import { colorOption } from '@/core/catalog/blank';
import { Check } from '@/ui/Check';
import { IconButton } from '@/ui/IconButton';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import { downloadHref, type PictureTile } from './view';

/** Longest alternative text. */
const MAX_ALT = 500;

interface PictureDetailsProps {
  readonly tile: PictureTile;
  readonly choice: PictureChoice;
  readonly total: number;
  readonly onGone: () => void;
}

/** What is said of one picture, and what can be done with it. */
export function PictureDetails({ tile, choice, total, onGone }: PictureDetailsProps) {
  const desk = useDesk('data', 'edit');
  const { subject } = tile;
  const colors = colorOption(desk.data.blank)?.values ?? [];
  return (
    <section aria-label={`Picture ${tile.number}`} className="border-t border-hairline bg-paper px-5 py-3">
      <div className="flex items-center gap-3 flex-wrap">
        <span className="font-semibold text-small">
          {tile.number} · {tile.name}
        </span>
        {tile.own && colors.length > 0 && (
          <Select
            label="Shown for"
            value={tile.color ?? ''}
            choices={[{ value: '', name: 'no color' }, ...colors.map(({ code, name }) => ({ value: code, name }))]}
            onChange={(code) =>
              desk.edit('Tie a picture to a color', (doc) => tiePicture(doc, choice, subject, code || null))
            }
          />
        )}
        {tile.color !== null && (
          <Check
            on={tile.mainOf !== null}
            onChange={(on) => desk.edit('Main picture of a color', (doc) => setMainPicture(doc, choice, subject, on))}
            className="text-small"
          >
            Main picture of {colors.find((value) => value.code === tile.color)?.name}
          </Check>
        )}
        <Tools tile={tile} choice={choice} total={total} onGone={onGone} />
      </div>
      <label className="mt-2 block">
        <span className="flex items-baseline justify-between text-small">
          <span className="font-medium">Alternative text</span>
          <span className="text-tiny text-muted">
            {tile.ownAlt ? 'your own; empty it to have it written from facts' : 'written from facts'}
          </span>
        </span>
        <input
          key={subject}
          className="mt-1 w-full rounded-paper border border-edge bg-sheet px-2 py-1.5 text-base"
          maxLength={MAX_ALT}
          value={tile.alt}
          onChange={(e) => {
            const alt = e.target.value;
            desk.edit('Alternative text', (doc) => describePicture(doc, choice, subject, alt), `alt:${subject}`);
          }}
        />
      </label>
    </section>
  );
}

/** Earlier, later, download and remove. */
function Tools({ tile, choice, total, onGone }: PictureDetailsProps) {
  const { data, edit } = useDesk('data', 'edit');
  const { subject, number } = tile;
  const step = (by: number) => edit('Move a picture', (doc) => movePicture(doc, choice, subject, number - 1 + by));
  return (
    <span className="ml-auto flex items-center gap-1">
      <IconButton name="Earlier" title="Earlier, Alt and ←" disabled={number === 1} onClick={() => step(-1)}>
        <ArrowLeft size={16} aria-hidden />
      </IconButton>
      <IconButton name="Later" title="Later, Alt and →" disabled={number === total} onClick={() => step(1)}>
        <ArrowRight size={16} aria-hidden />
      </IconButton>
      {tile.id && (
        <a
          href={downloadHref(data.product.id, tile.id, {
            storeId: null,
            format: 'jpeg',
            side: '',
            square: false,
            white: false,
          })}
          download
          aria-label="Download this picture"
          title="Download this picture (JPEG)"
          className="inline-grid size-6 place-items-center text-muted hover:text-ink"
        >
          <Download size={16} aria-hidden />
        </a>
      )}
      <IconButton
        name="Remove this picture"
        title="Remove this picture, Delete"
        onClick={() => {
          edit('Remove a picture', (doc) => removePictures(doc, choice, [subject]));
          onGone();
        }}
      >
        <Trash2 size={16} aria-hidden />
      </IconButton>
    </span>
  );
}
