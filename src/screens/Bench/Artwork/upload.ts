'use client';

import { useRef, useState } from 'react';
import { customAlphabet } from 'nanoid';
import { addLayer } from '@/bench/placing';
import { call, upload } from '@/ui/api';
import { useEvents } from '@/ui/events';
import { useDesk, type BenchArtwork } from '../desk';

export interface Upload {
  readonly id: string;
  readonly name: string;
  readonly share: number;
  readonly error: string | null;
}

const newId = customAlphabet('23456789abcdefghjkmnpqrstuvwxyz', 10);

/** Puts a ready artwork on the area in view and selects it. */
export function usePlaceArtwork(): (artwork: BenchArtwork) => void {
  const desk = useDesk();
  return (artwork) => {
    const { facts } = artwork;
    if (!facts) return;
    const layerId = newId();
    const area = desk.data.blank.areas.find((a) => a.key === desk.areaKey)!;
    desk.edit(`Place ${artwork.name}`, (doc) =>
      addLayer(
        doc,
        desk.data.blank,
        area,
        desk.geometryId,
        { id: artwork.id, name: artwork.name, widthPx: facts.widthPx, heightPx: facts.heightPx },
        layerId,
      ),
    );
    desk.select(layerId);
  };
}

/** Uploads dropped files with progress, waits until each was looked at, and places it; a refused one stays with its reason. */
export function useArtworkUpload(): {
  uploads: readonly Upload[];
  take: (file: File) => Promise<void>;
  dismiss: (id: string) => void;
} {
  const desk = useDesk();
  const place = usePlaceArtwork();
  const [uploads, setUploads] = useState<readonly Upload[]>([]);
  const waiting = useRef(new Map<string, () => void>());
  useEvents((topic, payload) => topic === 'artwork' && waiting.current.get(String(payload.artworkId))?.());

  const change = (id: string, part: Partial<Upload>) =>
    setUploads((all) => all.map((u) => (u.id === id ? { ...u, ...part } : u)));
  const dismiss = (id: string) => setUploads((all) => all.filter((u) => u.id !== id));

  /** The artwork once it has been looked at: told by an event, or seen by asking now and then should the event be missed. */
  const looked = (artworkId: string) =>
    new Promise<BenchArtwork>((resolve, reject) => {
      const ask = () =>
        void call<BenchArtwork>('GET', `/artwork/${artworkId}`).then((artwork) => {
          if (artwork.state === 'ingesting') return;
          waiting.current.delete(artworkId);
          clearInterval(timer);
          resolve(artwork);
        }, reject);
      const timer = setInterval(ask, 2000);
      waiting.current.set(artworkId, ask);
      ask();
    });

  const take = async (file: File) => {
    const id = newId();
    setUploads((all) => [...all, { id, name: file.name, share: 0, error: null }]);
    try {
      const taken = await upload<{ id: string }>(`/artwork?name=${encodeURIComponent(file.name)}`, file, (share) =>
        change(id, { share }),
      );
      change(id, { share: 1 });
      const artwork = await looked(taken.id);
      if (artwork.state === 'refused')
        return change(id, { error: artwork.refusal?.message ?? 'This file cannot be used.' });
      desk.addArtwork(artwork);
      place(artwork);
      dismiss(id);
    } catch (problem) {
      change(id, { error: (problem as Error).message });
    }
  };
  return { uploads, take, dismiss };
}
