import type { Path } from '../paths/path';
import { polygon, rect, ellipse, ring, star, wave, scallops, diamond, oar, turned, frame, wreath } from './shapes';

export const ORNAMENT_GROUPS = ['rules', 'frames', 'badges', 'waves', 'stars', 'ribbons', 'river'] as const;
export type OrnamentGroup = (typeof ORNAMENT_GROUPS)[number];

/** A simple vector piece: its path lies in a box 1 wide and `aspect` high, y down, filled by the nonzero rule. */
export interface Ornament {
  readonly code: string;
  readonly name: string;
  readonly group: OrnamentGroup;
  readonly aspect: number;
  readonly path: Path;
}

const piece = (code: string, name: string, group: OrnamentGroup, aspect: number, path: Path): Ornament => ({
  code,
  name,
  group,
  aspect,
  path,
});

/** About forty pieces of our own. */
export const ORNAMENTS: readonly Ornament[] = [
  piece('rule-plain', 'Plain rule', 'rules', 0.02, rect(0, 0, 1, 0.02)),
  piece('rule-double', 'Double rule', 'rules', 0.05, [...rect(0, 0, 1, 0.012), ...rect(0, 0.038, 1, 0.012)]),
  piece('rule-thick-thin', 'Thick and thin', 'rules', 0.05, [...rect(0, 0, 1, 0.028), ...rect(0, 0.042, 1, 0.008)]),
  piece(
    'rule-dots',
    'Dotted rule',
    'rules',
    0.04,
    Array.from({ length: 20 }, (_, i) => ellipse(0.025 + i * 0.05, 0.02, 0.014, 0.014)).flat(),
  ),
  piece(
    'rule-dashes',
    'Dashed rule',
    'rules',
    0.02,
    Array.from({ length: 12 }, (_, i) => rect((i * 0.945) / 11, 0, 0.055, 0.02)).flat(),
  ),
  piece('rule-diamond', 'Rule with a diamond', 'rules', 0.08, [
    ...rect(0, 0.034, 0.43, 0.012),
    ...rect(0.57, 0.034, 0.43, 0.012),
    ...diamond(0.5, 0.04, 0.05, 0.04),
  ]),
  piece('rule-taper', 'Tapering rule', 'rules', 0.03, [
    ...polygon([
      [0, 0.015],
      [0.5, 0],
      [1, 0.015],
      [0.5, 0.03],
    ]),
  ]),
  piece('frame-plain', 'Plain frame', 'frames', 0.75, frame(0.75, 0.025)),
  piece('frame-double', 'Double frame', 'frames', 0.75, [...frame(0.75, 0.012), ...frame(0.75, 0.025, 0.035)]),
  piece('frame-tall', 'Tall frame', 'frames', 1.4, frame(1.4, 0.03)),
  piece('frame-square', 'Square frame', 'frames', 1, frame(1, 0.04)),
  piece('frame-round', 'Round frame', 'frames', 1, ring(0.5, 0.5, 0.5, 0.04)),
  piece('frame-oval', 'Oval frame', 'frames', 0.7, [
    ...ellipse(0.5, 0.35, 0.5, 0.35),
    ...ellipse(0.5, 0.35, 0.465, 0.315, true),
  ]),
  piece('frame-corners', 'Four corners', 'frames', 0.75, [
    ...rect(0, 0, 0.18, 0.025),
    ...rect(0, 0.025, 0.025, 0.155),
    ...rect(0.82, 0, 0.18, 0.025),
    ...rect(0.975, 0.025, 0.025, 0.155),
    ...rect(0, 0.725, 0.18, 0.025),
    ...rect(0, 0.57, 0.025, 0.155),
    ...rect(0.82, 0.725, 0.18, 0.025),
    ...rect(0.975, 0.57, 0.025, 0.155),
  ]),
  piece('badge-disc', 'Disc', 'badges', 1, ellipse(0.5, 0.5, 0.5, 0.5)),
  piece('badge-double-ring', 'Double ring', 'badges', 1, [
    ...ring(0.5, 0.5, 0.5, 0.03),
    ...ring(0.5, 0.5, 0.45, 0.012),
  ]),
  piece('badge-scalloped', 'Scalloped disc', 'badges', 1, [
    ...ellipse(0.5, 0.5, 0.45, 0.45),
    ...scallops(20, 0.435, 0.065),
  ]),
  piece('badge-cog', 'Toothed disc', 'badges', 1, star(24, 0.5, 0.5, 0.5, 0.44)),
  piece('badge-shield', 'Shield', 'badges', 1.15, [
    { kind: 'M', x: 0, y: 0 },
    { kind: 'L', x: 1, y: 0 },
    { kind: 'L', x: 1, y: 0.55 },
    { kind: 'C', x1: 1, y1: 0.85, x2: 0.75, y2: 1.03, x: 0.5, y: 1.15 },
    { kind: 'C', x1: 0.25, y1: 1.03, x2: 0, y2: 0.85, x: 0, y: 0.55 },
    { kind: 'Z' },
  ]),
  piece('badge-diamond', 'Diamond', 'badges', 1, diamond(0.5, 0.5, 0.5, 0.5)),
  piece('badge-hexagon', 'Hexagon', 'badges', 0.866, [
    ...polygon([
      [0.25, 0],
      [0.75, 0],
      [1, 0.433],
      [0.75, 0.866],
      [0.25, 0.866],
      [0, 0.433],
    ]),
  ]),
  piece('badge-wreath', 'Wreath', 'badges', 0.95, [...wreath(1), ...wreath(-1)]),
  piece('wave-one', 'One wave', 'waves', 0.16, wave(4, 0.08, 0.04, 0.035)),
  piece('wave-two', 'Two waves', 'waves', 0.28, [...wave(4, 0.08, 0.04, 0.035), ...wave(4, 0.2, 0.04, 0.035)]),
  piece('wave-three', 'Three waves', 'waves', 0.4, [
    ...wave(4, 0.08, 0.04, 0.03),
    ...wave(4, 0.2, 0.04, 0.03, 1),
    ...wave(4, 0.32, 0.04, 0.03),
  ]),
  piece('wave-long', 'Long swell', 'waves', 0.2, wave(2, 0.1, 0.055, 0.04)),
  piece('wave-choppy', 'Choppy water', 'waves', 0.12, wave(9, 0.06, 0.03, 0.025)),
  piece('star-four', 'Four-pointed star', 'stars', 1, star(4, 0.5, 0.5, 0.5, 0.16)),
  piece('star-five', 'Five-pointed star', 'stars', 0.951, star(5, 0.5, 0.526, 0.526, 0.201)),
  piece('star-six', 'Six-pointed star', 'stars', 1, star(6, 0.5, 0.5, 0.5, 0.289)),
  piece('star-eight', 'Eight-pointed star', 'stars', 1, star(8, 0.5, 0.5, 0.5, 0.3)),
  piece('star-burst', 'Burst', 'stars', 1, star(32, 0.5, 0.5, 0.5, 0.36)),
  piece('star-three', 'Three stars', 'stars', 0.32, [
    ...star(5, 0.16, 0.17, 0.15, 0.058),
    ...star(5, 0.5, 0.17, 0.16, 0.062),
    ...star(5, 0.84, 0.17, 0.15, 0.058),
  ]),
  piece('star-sun', 'Rising sun', 'stars', 0.55, [
    { kind: 'M', x: 0.28, y: 0.55 },
    { kind: 'C', x1: 0.28, y1: 0.26, x2: 0.72, y2: 0.26, x: 0.72, y: 0.55 },
    { kind: 'Z' },
    ...[-80, -53, -27, 0, 27, 53, 80].flatMap((angle) => turned(rect(0.485, 0.07, 0.03, 0.16), angle, 0.5, 0.55)),
  ]),
  piece('ribbon-plain', 'Ribbon', 'ribbons', 0.26, [
    ...rect(0.12, 0, 0.76, 0.2),
    ...polygon([
      [0, 0.06],
      [0.16, 0.06],
      [0.16, 0.26],
      [0, 0.26],
      [0.06, 0.16],
    ]),
    ...polygon([
      [1, 0.06],
      [0.94, 0.16],
      [1, 0.26],
      [0.84, 0.26],
      [0.84, 0.06],
    ]),
  ]),
  piece(
    'ribbon-flag',
    'Pennant',
    'ribbons',
    0.5,
    polygon([
      [0, 0],
      [1, 0.25],
      [0, 0.5],
    ]),
  ),
  piece(
    'ribbon-swallowtail',
    'Swallowtail',
    'ribbons',
    0.4,
    polygon([
      [0, 0],
      [1, 0],
      [0.82, 0.2],
      [1, 0.4],
      [0, 0.4],
    ]),
  ),
  piece('ribbon-bunting', 'Bunting', 'ribbons', 0.2, [
    ...rect(0, 0, 1, 0.012),
    ...Array.from({ length: 8 }, (_, i) =>
      polygon([
        [0.01 + i * 0.125, 0.012],
        [0.115 + i * 0.125, 0.012],
        [0.0625 + i * 0.125, 0.2],
      ]),
    ).flat(),
  ]),
  piece('river-oar', 'Oar', 'river', 0.14, oar(0.07, 0.14)),
  piece('river-crossed-oars', 'Crossed oars', 'river', 0.85, [
    ...turned(oar(0.425, 0.13), 40, 0.5, 0.425),
    ...turned(oar(0.425, 0.13), 140, 0.5, 0.425),
  ]),
  piece('river-anchor', 'Anchor', 'river', 1.15, [
    ...ring(0.5, 0.13, 0.13, 0.05),
    ...rect(0.455, 0.24, 0.09, 0.86),
    ...rect(0.26, 0.34, 0.48, 0.08),
    { kind: 'M', x: 0, y: 0.7 },
    { kind: 'C', x1: 0.02, y1: 1.0, x2: 0.25, y2: 1.15, x: 0.5, y: 1.15 },
    { kind: 'C', x1: 0.75, y1: 1.15, x2: 0.98, y2: 1.0, x: 1, y: 0.7 },
    { kind: 'L', x: 0.9, y: 0.78 },
    { kind: 'C', x1: 0.86, y1: 0.95, x2: 0.7, y2: 1.04, x: 0.5, y: 1.04 },
    { kind: 'C', x1: 0.3, y1: 1.04, x2: 0.14, y2: 0.95, x: 0.1, y: 0.78 },
    { kind: 'Z' },
  ]),
  piece('river-compass', 'Compass rose', 'river', 1, [
    ...star(4, 0.5, 0.5, 0.5, 0.11),
    ...star(4, 0.5, 0.5, 0.3, 0.1, -45),
    ...ring(0.5, 0.5, 0.38, 0.02),
  ]),
  piece('river-drop', 'Drop', 'river', 1.35, [
    { kind: 'M', x: 0.5, y: 0 },
    { kind: 'C', x1: 0.62, y1: 0.3, x2: 1, y2: 0.55, x: 1, y: 0.85 },
    { kind: 'C', x1: 1, y1: 1.13, x2: 0.78, y2: 1.35, x: 0.5, y: 1.35 },
    { kind: 'C', x1: 0.22, y1: 1.35, x2: 0, y2: 1.13, x: 0, y: 0.85 },
    { kind: 'C', x1: 0, y1: 0.55, x2: 0.38, y2: 0.3, x: 0.5, y: 0 },
    { kind: 'Z' },
  ]),
];

const byCode = new Map(ORNAMENTS.map((one) => [one.code, one]));
export const ornamentByCode = (code: string): Ornament | null => byCode.get(code) ?? null;
