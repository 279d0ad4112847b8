'use client';

import { useEffect, useState } from 'react';
import type { ShelfBlank } from '@/core/shelf/shelf';
import { AreaSketch } from './AreaSketch';

/** How long each color is shown while the pointer rests on a picture. */
const WALK_MS = 900;

export type PicturedBlank = Pick<ShelfBlank, 'id' | 'name' | 'shotHash' | 'areas' | 'colorOf'> & {
  readonly colors: readonly { readonly code: string; readonly name: string; readonly hex: string }[];
};

/** Sides up to this are served by the small picture, CSS px. */
const SMALL_PX = 80;

function pictureAddress(id: string, shotHash: string, color: string | null, sizePx: number): string {
  const query = new URLSearchParams({
    ...(color === null ? {} : { color }),
    ...(sizePx <= SMALL_PX ? { size: 'thumbnail' } : {}),
    v: shotHash,
  });
  return `/api/v1/blanks/${id}/picture?${query.toString()}`;
}

/**
 * The bare blank in a color: from its shot, or its print areas to scale where it has none. While the pointer rests on it, it walks through
 * the colors; where the system asks for no motion it stays.
 */
export function BlankPicture({
  blank,
  color,
  first = null,
  size,
  className = '',
}: {
  blank: PicturedBlank;
  /** A color that is pointed at elsewhere; it wins over the walk. */
  color?: string | null;
  /** The color that is shown at rest and that the walk begins at; else the blank's first. */
  first?: string | null;
  /** Side in px. */
  size: number;
  className?: string;
}) {
  const [step, setStep] = useState(0);
  const [walking, setWalking] = useState(false);
  const many = blank.colors.length > 1;
  useEffect(() => {
    if (!walking || !many || window.matchMedia('(prefers-reduced-motion: reduce)').matches) return;
    const timer = setInterval(() => setStep((n) => n + 1), WALK_MS);
    return () => clearInterval(timer);
  }, [walking, many]);
  const start = Math.max(
    0,
    blank.colors.findIndex((one) => one.code === first),
  );
  const shown =
    blank.colors.find((one) => one.code === color) ?? blank.colors[(start + step) % blank.colors.length] ?? null;
  return (
    <span
      className={`block overflow-hidden rounded-paper border border-hairline bg-sheet ${className}`}
      style={{ width: size, height: size }}
      title={shown && many ? shown.name : undefined}
      onPointerEnter={() => {
        setWalking(true);
        if (many) setStep((n) => n + 1);
      }}
      onPointerLeave={() => {
        setWalking(false);
        setStep(0);
      }}
    >
      {blank.shotHash !== null ? (
        <img
          src={pictureAddress(blank.id, blank.shotHash, shown?.code ?? null, size)}
          alt=""
          width={size}
          height={size}
          // Until it is there, the color itself.
          style={{ background: shown?.hex }}
          className="size-full object-cover"
        />
      ) : (
        <AreaSketch areas={blank.areas} hex={shown?.hex ?? null} colorOf={blank.colorOf} />
      )}
    </span>
  );
}
