import type { Area } from '@/core/catalog/blank';
import type { Geometry } from '@/core/geometry/area';
import type { Placement } from '@/core/geometry/placement';

/**
 * A usual place on a kind of area, in mm from its anchor (the middle of a collar for a front): how wide the design is at most, and where its
 * top edge is. Common practice, no source.
 */
export interface Preset {
  readonly code: string;
  readonly name: string;
  /** Parts of an area's key on which it makes sense. */
  readonly areas: readonly string[];
  readonly widthMm: number;
  /** Highest it may be. */
  readonly heightMm: number;
  /** Middle of the design, right of the anchor. */
  readonly dxMm: number;
  /** Top of the design, below the anchor. */
  readonly topMm: number;
}

export const PRESETS: readonly Preset[] = [
  { code: 'full-front', name: 'Full front', areas: ['front'], widthMm: 280, heightMm: 360, dxMm: 0, topMm: 40 },
  { code: 'center-chest', name: 'Center chest', areas: ['front'], widthMm: 230, heightMm: 200, dxMm: 0, topMm: 65 },
  // The wearer's left is at the right as seen.
  { code: 'left-chest', name: 'Left chest', areas: ['front', 'chest'], widthMm: 90, heightMm: 90, dxMm: 85, topMm: 60 },
  { code: 'full-back', name: 'Full back', areas: ['back'], widthMm: 290, heightMm: 380, dxMm: 0, topMm: 40 },
  { code: 'upper-back', name: 'Upper back', areas: ['back'], widthMm: 260, heightMm: 110, dxMm: 0, topMm: 50 },
  { code: 'nape', name: 'Nape', areas: ['back'], widthMm: 80, heightMm: 60, dxMm: 0, topMm: 20 },
  { code: 'sleeve', name: 'On the sleeve', areas: ['sleeve'], widthMm: 75, heightMm: 90, dxMm: 0, topMm: 10 },
  { code: 'neck-label', name: 'Neck label', areas: ['label'], widthMm: 48, heightMm: 30, dxMm: 0, topMm: 5 },
];

/** Presets that make sense on an area and fit into its geometry at least half as large as they are meant. */
export const presetsFor = (area: Pick<Area, 'key'>, geometry: Geometry): Preset[] => {
  const code = area.key.split('.')[1] ?? '';
  return PRESETS.filter(
    (preset) =>
      preset.areas.some((part) => code.includes(part)) &&
      geometry.widthMm >= preset.widthMm / 2 &&
      Math.abs(preset.dxMm) < geometry.widthMm / 2,
  );
};

const round1 = (value: number) => Math.round(value * 10) / 10;

/** Where a preset puts a layer of this shape (height ÷ width) on a geometry, inside its safe margin. */
export function presetPlacement(preset: Preset, geometry: Geometry, aspect: number, was: Placement): Placement {
  const { safeMm, anchor } = geometry;
  const widthMm = Math.min(
    preset.widthMm,
    preset.heightMm / aspect,
    geometry.widthMm - 2 * safeMm,
    (geometry.heightMm - 2 * safeMm) / aspect,
  );
  const clamp = (value: number, low: number, high: number) => Math.min(Math.max(value, low), Math.max(low, high));
  const halfHeight = (widthMm * aspect) / 2;
  return {
    ...was,
    rotationDeg: 0,
    widthMm: round1(widthMm),
    xMm: round1(clamp(anchor.xMm + preset.dxMm, safeMm + widthMm / 2, geometry.widthMm - safeMm - widthMm / 2)),
    yMm: round1(
      clamp(anchor.yMm + preset.topMm + halfHeight, safeMm + halfHeight, geometry.heightMm - safeMm - halfHeight),
    ),
  };
}
