'use client';

import { useState } from 'react';
import {
  chosenSet,
  movePicture,
  picturesNow,
  removePictures,
  resetPictures,
  type PictureChoice,
} from '@/bench/picturing';
import { count } from '@/core/words/count';
import { Alert } from '@/ui/Alert';
import { Button } from '@/ui/Button';
import { FileButton, PICTURE_TYPES } from '@/ui/FileButton';
import { ChoosingFor } from '../ChoosingFor';
import { useDesk } from '../desk';
import type { BenchData } from '../load';
import { PictureGrid } from './PictureGrid';
import { SavedOrders } from './SavedOrders';
import { useOwnPicture } from './use-own-picture';
import { usePictures } from './use-pictures';
import { pictureTiles } from './view';
import { newId } from '@/ui/ids';
import { later } from '@/ui/later';

const ChooseSheet = later(() => import('./ChooseSheet').then((m) => m.ChooseSheet));
const DownloadSheet = later(() => import('./DownloadSheet').then((m) => m.DownloadSheet));
const MarkSheet = later(() => import('./MarkSheet').then((m) => m.MarkSheet));
const PictureDetails = later(() => import('./PictureDetails').then((m) => m.PictureDetails));

/** The pictures of the product: which there are, in which order, and what is said of each. */
export function PicturesPart() {
  const desk = useDesk('data', 'doc', 'edit');
  const { data, doc } = desk;
  const [storeId, setStoreId] = useState('');
  const store = data.stores.find(({ id }) => id === storeId) ?? null;
  const { told, error } = usePictures(store?.id ?? '');
  const [subject, setSubject] = useState<string | null>(null);
  const [open, setOpen] = useState<'choose' | 'mark' | 'download' | null>(null);
  const choice = choiceFrom(data, store?.id);
  const hasOwn = Object.keys(chosenSet(doc, choice)).length > 0;
  const pictures = picturesNow(doc, choice);
  const tiles = pictureTiles(pictures, told, data.blank, data.shots);
  const chosen = tiles.find((tile) => tile.subject === subject) ?? null;
  const renewing = tiles.filter((tile) => tile.state !== 'made' && !tile.problem).length;

  const { take, taking, problem } = useOwnPicture(choice, setSubject);
  return (
    <div className="flex flex-col h-full min-h-0">
      <header className="flex items-center gap-3 flex-wrap px-5 pt-4 pb-3 border-b border-hairline">
        <h2 className="font-display text-[18px]">Pictures</h2>
        <p role="status" className="text-small text-muted">
          {tiles.length === 0 ? 'None yet' : count(tiles.length, 'picture')}
          {renewing > 0 && tiles.length > 0 ? ` · ◔ ${renewing} being made` : ''}
          {tiles.length > 0 ? setWords(store?.name ?? null, hasOwn, Object.keys(doc.pictures.base).length > 0) : ''}
        </p>
        <SavedOrders choice={choice} pictures={pictures.map(([, picture]) => picture)} />
        <ChoosingFor
          storeId={store?.id ?? ''}
          own={(id) => (Object.keys(chosenSet(doc, { storeId: id })).length > 0 ? 'its own' : null)}
          onChange={(next) => {
            setStoreId(next);
            setSubject(null);
          }}
        />
        <span className="ml-auto flex items-center gap-2">
          <Button onClick={() => setOpen('choose')}>Choose shots and colors</Button>
          <Button onClick={() => setOpen('mark')}>Photograph as a shot</Button>
          <FileButton
            disabled={taking !== null}
            accept={PICTURE_TYPES}
            label="A picture of your own"
            onFile={(file) => void take(file)}
          >
            {taking ? `◔ ${taking.slice(0, 18)}` : 'Add own picture'}
          </FileButton>
          <Button disabled={tiles.length === 0} onClick={() => setOpen('download')}>
            Download
          </Button>
        </span>
      </header>
      {(problem ?? error) && <Alert className="mx-5 mt-3">{problem ?? error}</Alert>}
      <div className="min-h-0 flex-1 overflow-auto px-5 py-4">
        {tiles.length === 0 ? (
          <Nothing />
        ) : (
          <PictureGrid
            tiles={tiles}
            chosen={subject}
            choose={setSubject}
            move={(which, to) => desk.edit('Move a picture', (d) => movePicture(d, choice, which, to))}
            remove={(which) => {
              desk.edit('Remove a picture', (d) => removePictures(d, choice, [which]));
              setSubject(null);
            }}
          />
        )}
        {hasOwn && <GiveBack storeName={store?.name ?? null} choice={choice} />}
      </div>
      {chosen && <PictureDetails tile={chosen} choice={choice} total={tiles.length} onGone={() => setSubject(null)} />}
      {open === 'choose' && <ChooseSheet open onClose={() => setOpen(null)} choice={choice} />}
      {open === 'mark' && <MarkSheet open onClose={() => setOpen(null)} choice={choice} />}
      {open === 'download' && <DownloadSheet open onClose={() => setOpen(null)} choice={choice} />}
    </div>
  );
}

/** What pictures are chosen from, for one store or for all. */
const choiceFrom = ({ blank, shots }: BenchData, storeId: string | undefined): PictureChoice => ({
  blank,
  shots: shots.map(({ id, name, angle, chosenOnly, areas }) => ({ id, document: { name, angle, chosenOnly, areas } })),
  newId,
  ...(storeId === undefined ? {} : { storeId }),
});

/** The way back from a set that was chosen. */
function GiveBack({ storeName, choice }: { storeName: string | null; choice: PictureChoice }) {
  const { edit } = useDesk('edit');
  const label =
    storeName === null ? 'Use the automatic set of pictures' : `Follow the product’s pictures in ${storeName}`;
  return (
    <p className="mt-4 text-small text-muted">
      You have chosen these{storeName === null ? '' : ` for ${storeName}`}.{' '}
      <Button kind="quiet" onClick={() => edit(label, (d) => resetPictures(d, choice))}>
        {storeName === null ? 'Use the automatic set' : 'Follow the product again'}
      </Button>
    </p>
  );
}

/** Whose set is in view, where nobody chose it for whom it is. */
function setWords(storeName: string | null, hasOwn: boolean, hasBase: boolean): string {
  if (storeName !== null) return hasOwn ? ` · only for ${storeName}` : ' · as for all stores';
  return hasBase ? '' : ' · automatic set';
}

/** What will be here, and what it takes. */
function Nothing() {
  const { goTo } = useDesk('goTo');
  return (
    <div className="max-w-md text-muted">
      <p>
        Pictures are made automatically when something is placed on an area and at least one variant is chosen: the
        first view on every color, then each further view, then a close-up.
      </p>
      <p className="mt-3 flex gap-2">
        <Button onClick={() => goTo('artwork')}>Place artwork</Button>
        <Button onClick={() => goTo('variants')}>Choose variants</Button>
      </p>
    </div>
  );
}
