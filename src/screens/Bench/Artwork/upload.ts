'use client';

import { useState } from 'react';
import { addLayer } from '@/bench/placing';
import { readyArtwork } from '@/screens/ready-artwork';
import { upload } from '@/ui/api';
import { useDesk, type BenchArtwork } from '../desk';
import { newId } from '@/ui/ids';

export interface Upload {
  readonly id: string;
  readonly name: string;
  readonly share: number;
  readonly error: string | null;
}

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

  const change = (id: string, part: Partial<Upload>) =>
    setUploads((all) => all.map((u) => (u.id === id ? { ...u, ...part } : u)));
  const dismiss = (id: string) => setUploads((all) => all.filter((u) => u.id !== id));

  const take = async (file: File) => {
    const id = newId();
    setUploads((all) => [...all, { id, name: file.name, share: 0, error: null }]);
    try {
      const taken = await upload<{ id: string }>(`/artwork?name=${encodeURIComponent(file.name)}`, file, (share) =>
        change(id, { share }),
      );
      change(id, { share: 1 });
      const artwork = await readyArtwork<BenchArtwork>(taken.id);
      desk.addArtwork(artwork);
      place(artwork);
      dismiss(id);
    } catch (problem) {
      change(id, { error: (problem as Error).message });
    }
  };
  return { uploads, take, dismiss };
}
