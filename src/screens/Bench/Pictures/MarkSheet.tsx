'use client';

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { PictureChoice } from '@/bench/picturing';
import { readyArtwork } from '@/screens/ready-artwork';
import { Alert } from '@/ui/Alert';
import { Button } from '@/ui/Button';
import { FileButton, PICTURE_TYPES } from '@/ui/FileButton';
import { Sheet } from '@/ui/Sheet';
import { call, upload } from '@/ui/api';
import { queries } from '@/ui/queries';
import { useAct } from '@/ui/use-act';
import { useDesk, type BenchArtwork } from '../desk';
import { Marking } from './Marking';
import { useReloadShots } from './use-reload-shots';
import type { OwnShotView } from './own-shot-view';

/** A photograph of one's own as a shot: brought or taken from those that are there, marked, saved, and then used like every other. */
export function MarkSheet({ open, onClose, choice }: { open: boolean; onClose: () => void; choice: PictureChoice }) {
  return (
    <Sheet open={open} onClose={onClose} title="Photograph as a shot" wide="full">
      {open && <Begin onClose={onClose} choice={choice} />}
    </Sheet>
  );
}

interface Start {
  readonly photograph: BenchArtwork;
  readonly shot: OwnShotView | null;
}

function Begin({ onClose, choice }: { onClose: () => void; choice: PictureChoice }) {
  const { start, photographs, problem, taking, begin, take, reopen, remove } = useBeginning();
  if (start) return <Marking {...start} choice={choice} onClose={onClose} />;
  return (
    <div className="grid gap-4">
      <p className="max-w-2xl text-muted">
        Upload a photograph of the blank, well lit and with nothing on it. You mark where the print area is and what
        takes the fabric’s color; light and shade come from the photograph. JPEG, PNG or WebP, up to 50 megapixels.
      </p>
      {problem && <Alert>{problem}</Alert>}
      <p>
        <FileButton
          kind="primary"
          disabled={taking}
          accept={PICTURE_TYPES}
          label="A photograph of the blank"
          onFile={(file) => void take(file)}
        >
          {taking ? '◔ Processing' : 'Upload a photograph'}
        </FileButton>
      </p>
      <OwnShots onReopen={(id) => void reopen(id)} onDelete={(id) => void remove(`/shots/${id}`)} />
      {photographs && photographs.length > 0 && (
        <Photographs photographs={photographs} onBegin={begin} onDelete={(id) => void remove(`/photographs/${id}`)} />
      )}
    </div>
  );
}

/** What marking begins with: a photograph that is uploaded, one of those that are there, or a shot that is marked again. */
function useBeginning() {
  const reloadShots = useReloadShots();
  const {
    data: photographs,
    error,
    refetch,
  } = useQuery(
    {
      queryKey: ['artwork', { photographs: true }],
      queryFn: () =>
        call<{ photographs: BenchArtwork[] }>('GET', '/photographs').then((answer) =>
          answer.photographs.filter((one) => one.state === 'ready'),
        ),
    },
    queries(),
  );
  const [start, setStart] = useState<Start | null>(null);
  const { act, busy, problem } = useAct();
  const begin = (photograph: BenchArtwork) => setStart({ photograph, shot: null });
  const take = (file: File) =>
    act(async () => {
      const path = `/photographs?name=${encodeURIComponent(file.name)}`;
      const { id } = await upload<{ id: string }>(path, file, () => undefined);
      begin(await readyArtwork<BenchArtwork>(id));
    });
  const reopen = (id: string) =>
    act(async () => {
      const shot = await call<OwnShotView>('GET', `/shots/${id}`);
      setStart({ photograph: await call<BenchArtwork>('GET', `/artwork/${shot.photographId}`), shot });
    });
  const remove = (path: string) =>
    act(async () => {
      await call('DELETE', path);
      await Promise.all([refetch(), reloadShots()]);
    });
  return { start, photographs, problem: problem ?? error?.message ?? null, taking: busy, begin, take, reopen, remove };
}

function OwnShots({ onReopen, onDelete }: { onReopen: (id: string) => void; onDelete: (id: string) => void }) {
  const { data } = useDesk('data');
  const own = data.shots.filter((shot) => shot.own);
  if (own.length === 0) return null;
  return (
    <section>
      <h3 className="font-semibold text-small mb-1">Your shots of {data.blank.name}</h3>
      <ul className="divide-y divide-hairline border-y border-hairline max-w-xl">
        {own.map((shot) => (
          <li key={shot.id} className="flex items-center gap-3 py-1.5 text-small">
            <span className="flex-1">{shot.name}</span>
            <Button kind="quiet" onClick={() => onReopen(shot.id)}>
              Mark it again
            </Button>
            <Button kind="quiet" onClick={() => onDelete(shot.id)}>
              Delete
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Photographs({
  photographs,
  onBegin,
  onDelete,
}: {
  photographs: readonly BenchArtwork[];
  onBegin: (photograph: BenchArtwork) => void;
  onDelete: (id: string) => void;
}) {
  return (
    <section>
      <h3 className="font-semibold text-small mb-1">Photographs uploaded before</h3>
      <ul className="grid grid-cols-6 gap-3">
        {photographs.map((one) => (
          <li key={one.id}>
            <button
              type="button"
              className="block w-full rounded-paper border border-hairline overflow-hidden"
              onClick={() => onBegin(one)}
            >
              <img
                src={`/api/v1/artwork/${one.id}/thumbnail`}
                alt={one.name}
                className="aspect-square w-full object-cover"
              />
            </button>
            <span className="flex items-baseline justify-between text-tiny">
              <span className="truncate">{one.name}</span>
              <Button kind="quiet" className="text-tiny!" onClick={() => onDelete(one.id)}>
                Delete
              </Button>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
