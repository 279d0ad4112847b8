'use client';

import { later } from '@/ui/later';
import { useState } from 'react';
import { addText } from '@/bench/placing';
import { luminance, parseHex } from '@/core/artwork/color';
import { areaTitle, colorOption } from '@/core/catalog/blank';
import { ownEntry } from '@/core/own-entry';
import { UploadList } from '@/screens/UploadList';
import { useUploads } from '@/screens/use-uploads';
import { newId } from '@/ui/ids';
import { usePageKeys } from '@/ui/keys';
import { useFileDrop } from '@/ui/use-file-drop';
import { useDesk, useDeskNow, type BenchArtwork, type Desk } from '../desk';
import { AreaTabs } from './AreaTabs';
import { LayerBar } from './LayerBar';
import { LayersPanel } from './LayersPanel';
import { usePlaceArtwork } from './place-artwork';
import { Shapes } from './Shapes';
import { Surface } from './Surface';

const Ornaments = later(() => import('./Ornaments').then((m) => m.Ornaments));
const Shelf = later(() => import('./Shelf').then((m) => m.Shelf));

/** Selects the words of the text that was just added, once its form is there: it can be loaded for the first time. */
function selectWords(tries = 60): void {
  const field = document.querySelector<HTMLTextAreaElement>('[data-words]');
  if (field) field.select();
  else if (tries > 0) requestAnimationFrame(() => selectWords(tries - 1));
}

/** Adds a text in ink that is seen on the color in view; what it says is typed at once, in place of the sample. */
function writeText({ data, areaKey, geometryId, color, edit, select }: Desk): void {
  const id = newId();
  const area = data.blank.areas.find((a) => a.key === areaKey)!;
  const ground = colorOption(data.blank)?.values.find((value) => value.code === color)?.hex ?? '#ffffff';
  const ink = luminance(parseHex(ground)) < 0.3 ? '#ffffff' : '#1a1c20';
  edit('Add text', (d) => addText(d, area, ownEntry(data.blank.geometries, geometryId)!, geometryId, id, ink));
  select(id);
  selectWords();
}

/** The working surface: artwork on one area of the blank. Files can be dropped on it. */
export function ArtworkPart() {
  const { data, areaKey, designed } = useDesk('data', 'areaKey', 'designed');
  const now = useDeskNow();
  const [open, setOpen] = useState<'shelf' | 'ornaments' | null>(null);
  const [layersOpen, setLayersOpen] = useState(false);
  const place = usePlaceArtwork();
  const uploads = useUploads<BenchArtwork>((artwork, inBatch) => {
    now().addArtwork(artwork);
    place(artwork, inBatch);
  });
  const { over, target } = useFileDrop(uploads.take);
  usePageKeys({
    singles: (e) => {
      const key = e.altKey ? '' : e.key.toLowerCase();
      if (key === 'i') setOpen('shelf');
      else if (key === 'o') setOpen('ornaments');
      else if (key === 'w') writeText(now());
      else return false;
      return true;
    },
  });
  const area = data.blank.areas.find((a) => a.key === areaKey)!;
  const empty = Object.keys(ownEntry(designed.areas, areaKey)?.layers ?? {}).length === 0;
  return (
    <div {...target} className="relative h-full flex flex-col bg-board">
      <input
        type="file"
        multiple
        aria-label="Upload artwork"
        className="hidden"
        data-testid="upload"
        onChange={(e) => {
          uploads.take([...(e.target.files ?? [])]);
          // So that the same file can be uploaded again.
          e.target.value = '';
        }}
      />
      <AreaTabs layersOpen={layersOpen} onLayers={() => setLayersOpen(!layersOpen)} />
      <Shapes />
      <div className="relative flex min-h-0 flex-1">
        <div className="relative min-w-0 flex-1">
          <Surface />
          {empty && (
            <div className="absolute inset-x-0 top-8 px-6 text-center pointer-events-none">
              <span className="inline-block rounded-paper border border-hairline bg-sheet px-3 py-1.5 text-small">
                Drop a PNG, JPEG, WebP or SVG here, or add artwork that you uploaded before.
              </span>
            </div>
          )}
          {over && (
            <div className="absolute inset-3 rounded-paper border-2 border-dashed border-primary bg-sheet/70 grid place-items-center font-display text-[18px]">
              Drop to place on the {areaTitle(data.blank, area).toLocaleLowerCase('en')}
            </div>
          )}
          <UploadList uploads={uploads} className="absolute left-3 bottom-3 w-96" />
        </div>
        <LayersPanel
          open={layersOpen}
          onArtwork={() => setOpen('shelf')}
          onText={() => writeText(now())}
          onOrnaments={() => setOpen('ornaments')}
        />
      </div>
      <LayerBar />
      {open === 'ornaments' && <Ornaments open onClose={() => setOpen(null)} />}
      {open === 'shelf' && <Shelf open onClose={() => setOpen(null)} onFiles={uploads.take} />}
    </div>
  );
}
