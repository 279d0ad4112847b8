'use client';

import { useRef } from 'react';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { useDesk } from '../desk';
import { usePlaceArtwork } from './upload';

/** Artwork that was brought before, to place again; and the way to bring more. */
export function Shelf({
  open,
  onClose,
  onFiles,
}: {
  open: boolean;
  onClose: () => void;
  onFiles: (files: File[]) => void;
}) {
  const { artworks } = useDesk();
  const place = usePlaceArtwork();
  const input = useRef<HTMLInputElement>(null);
  const ready = artworks.filter((artwork) => artwork.state === 'ready' && artwork.facts);
  return (
    <Sheet open={open} onClose={onClose} title="Add artwork" wide>
      <div className="flex items-baseline gap-4 mb-4">
        <Button kind="primary" onClick={() => input.current?.click()}>
          Upload files …
        </Button>
        <span className="text-small text-muted">PNG, JPEG, WebP or SVG, up to 100 MB and 120 megapixels.</span>
        <input
          ref={input}
          type="file"
          multiple
          accept="image/png,image/jpeg,image/webp,image/svg+xml"
          className="hidden"
          aria-label="Files to upload"
          onChange={(e) => {
            onFiles([...(e.target.files ?? [])]);
            onClose();
          }}
        />
      </div>
      {ready.length === 0 ? (
        <p className="text-muted">No artwork yet.</p>
      ) : (
        <ul className="grid grid-cols-4 gap-3">
          {ready.map((artwork) => (
            <li key={artwork.id}>
              <button
                type="button"
                className="w-full text-left rounded-paper border border-edge hover:border-ink p-2"
                onClick={() => {
                  place(artwork);
                  onClose();
                }}
              >
                <span className="block h-28 rounded-[2px] bg-[repeating-conic-gradient(var(--color-board)_0_25%,var(--color-sheet)_0_50%)] bg-[length:12px_12px]">
                  <img src={`/api/v1/artwork/${artwork.id}/thumbnail`} alt="" className="size-full object-contain" />
                </span>
                <span className="block font-medium truncate mt-1.5">{artwork.name}</span>
                <span className="block text-tiny text-muted">
                  {artwork.facts!.vector ? 'vector' : `${artwork.facts!.widthPx} × ${artwork.facts!.heightPx} px`}
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
    </Sheet>
  );
}
