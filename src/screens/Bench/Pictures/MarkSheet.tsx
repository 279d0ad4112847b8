'use client';

import { useCallback, useEffect, useState } from 'react';
import type { PictureChoice } from '@/bench/picturing';
import { readyArtwork } from '@/screens/ready-artwork';
import { Alert } from '@/ui/Alert';
import { Button } from '@/ui/Button';
import { FileButton, PICTURE_TYPES } from '@/ui/FileButton';
import { Sheet } from '@/ui/Sheet';
import { call, upload } from '@/ui/api';
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
  const desk = useDesk('data');
  const reloadShots = useReloadShots();
  const [photographs, setPhotographs] = useState<readonly BenchArtwork[] | null>(null);
  const [start, setStart] = useState<Start | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [taking, setTaking] = useState(false);
  const own = desk.data.shots.filter((shot) => shot.own);
  const read = useCallback(
    () =>
      call<{ photographs: BenchArtwork[] }>('GET', '/photographs').then(
        (answer) => setPhotographs(answer.photographs.filter((one) => one.state === 'ready')),
        (error: Error) => setProblem(error.message),
      ),
    [],
  );
  useEffect(() => void read(), [read]);
  const take = async (file: File) => {
    setProblem(null);
    setTaking(true);
    try {
      const { id } = await upload<{ id: string }>(
        `/photographs?name=${encodeURIComponent(file.name)}`,
        file,
        () => undefined,
      );
      setStart({ photograph: await readyArtwork<BenchArtwork>(id), shot: null });
    } catch (why) {
      setProblem((why as Error).message);
    } finally {
      setTaking(false);
    }
  };
  const reopen = async (id: string) => {
    try {
      const shot = await call<OwnShotView>('GET', `/shots/${id}`);
      setStart({ photograph: await call<BenchArtwork>('GET', `/artwork/${shot.photographId}`), shot });
    } catch (why) {
      setProblem((why as Error).message);
    }
  };
  const remove = async (path: string) => {
    try {
      await call('DELETE', path);
      await Promise.all([read(), reloadShots()]);
    } catch (why) {
      setProblem((why as Error).message);
    }
  };
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
      {own.length > 0 && (
        <section>
          <h3 className="font-semibold text-small mb-1">Your shots of {desk.data.blank.name}</h3>
          <ul className="divide-y divide-hairline border-y border-hairline max-w-xl">
            {own.map((shot) => (
              <li key={shot.id} className="flex items-center gap-3 py-1.5 text-small">
                <span className="flex-1">{shot.name}</span>
                <Button kind="quiet" onClick={() => void reopen(shot.id)}>
                  Mark it again
                </Button>
                <Button kind="quiet" onClick={() => void remove(`/shots/${shot.id}`)}>
                  Delete
                </Button>
              </li>
            ))}
          </ul>
        </section>
      )}
      {photographs && photographs.length > 0 && (
        <section>
          <h3 className="font-semibold text-small mb-1">Photographs uploaded before</h3>
          <ul className="grid grid-cols-6 gap-3">
            {photographs.map((one) => (
              <li key={one.id}>
                <button
                  type="button"
                  className="block w-full rounded-paper border border-hairline overflow-hidden"
                  onClick={() => setStart({ photograph: one, shot: null })}
                >
                  <img
                    src={`/api/v1/artwork/${one.id}/thumbnail`}
                    alt={one.name}
                    className="aspect-square w-full object-cover"
                  />
                </button>
                <span className="flex items-baseline justify-between text-tiny">
                  <span className="truncate">{one.name}</span>
                  <Button kind="quiet" className="text-tiny!" onClick={() => void remove(`/photographs/${one.id}`)}>
                    Delete
                  </Button>
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}
