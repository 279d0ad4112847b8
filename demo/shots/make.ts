import path from 'node:path';
import { capShot } from './goods/cap';
import { cushionShot } from './goods/cushion';
import { framedShot } from './goods/framed';
import { logbookShot, openLogbookShot } from './goods/logbook';
import { pennantShot } from './goods/pennant';
import { setShot } from './goods/set';
import { stickerShot } from './goods/sticker';
import { toteShot } from './goods/tote';
import { towelShot } from './goods/towel';
import { hoodieShot } from './goods/hoodie';
import { flatTeeShot } from './goods/laid-flat';
import { flatPosterShot, posterShot } from './goods/poster';
import { teeShot, type TeeSpec } from './goods/tee';
import { vesselShot } from './goods/vessel';
import type { Quality } from './studio/scene';
import { fullestPart, writeGrid, writeShot, type Passes } from './passes';
import { BOTTLE_500, BOTTLE_750, CUP, MUG_11, MUG_15 } from './vessels';

/** `npm run shots [CODE …]`: makes the passes of the demo's shots from scratch, the same bytes each time. */
const SIZE = Number(process.env.SIZE ?? 1600);
const SAMPLES = Number(process.env.SAMPLES ?? 16);
const OUT = process.env.OUT ?? import.meta.dirname;
/** A folder: then only the grids are made that maps are held to. */
const GRIDS = process.env.GRIDS;
let quality: Quality = { size: SIZE, samples: SAMPLES };

interface Made {
  readonly name: string;
  readonly angle: string;
  readonly turnDeg?: number;
  /** Left out of sets that follow by themselves: its picture has a fault. */
  readonly chosenOnly?: true;
  make(): Passes | Promise<Passes>;
}

const adult = {
  scale: 1,
  print: { topMm: 112, widthMm: 305, heightMm: 406, variant: { size: 'm' } },
  label: { widthMm: 60, heightMm: 40 },
};
const child = {
  scale: 0.7,
  print: { topMm: 84, widthMm: 200, heightMm: 240, variant: { size: 'y5' } },
  label: { widthMm: 50, heightMm: 35 },
};
const sleeve = { widthMm: 90, heightMm: 110 };
const tee = (spec: Partial<TeeSpec> & { back?: boolean }, of: Omit<TeeSpec, 'back'> = adult) =>
  teeShot(quality, { back: false, ...of, ...spec });
const backOf = <S extends typeof adult>(spec: S): S => ({
  ...spec,
  print: { ...spec.print, topMm: spec.print.topMm - 50 * spec.scale },
});
const vessel = (of: typeof MUG_11, turnDeg: number, variant: Record<string, string>) => () =>
  vesselShot(quality, of, turnDeg, 'main.wrap', variant);
const sideOfTote = { key: 'main.front', widthMm: 280, heightMm: 320, fromTopMm: 52 };
const wholeTote = { key: 'main.front', widthMm: 380, heightMm: 420, fromTopMm: 0 };

const turned = (name: string, angle: string, turnDeg: number, make: Made['make']): Made => ({
  name,
  angle,
  turnDeg,
  make,
});
const mug = (code: string, of: typeof MUG_11, size: string): Record<string, Made> => ({
  [`${code}-front`]: turned('Front', 'front', 0, vessel(of, 0, { size })),
  [`${code}-handle-right`]: turned('Handle right', 'handle-right', 72, vessel(of, 72, { size })),
  [`${code}-handle-left`]: turned('Handle left', 'handle-left', -72, vessel(of, -72, { size })),
  [`${code}-turned-36`]: turned('Turned to the right', 'turned', 36, vessel(of, 36, { size })),
  [`${code}-turned--36`]: turned('Turned to the left', 'turned', -36, vessel(of, -36, { size })),
});

const shots: Record<string, Made> = {
  'tee-front': { name: 'Front', angle: 'front', make: () => tee({ sleeve }) },
  'tee-back': { name: 'Back', angle: 'back', make: () => tee({ back: true }, backOf(adult)) },
  'tee-near': { name: 'Close up', angle: 'close-up', make: () => tee({ near: { x: -10, y: 190, sideMm: 300 } }) },
  'child-front': { name: 'Front', angle: 'front', make: () => tee({}, child) },
  'child-back': { name: 'Back', angle: 'back', make: () => tee({ back: true }, backOf(child)) },
  'tee-flat': { name: 'Laid flat', angle: 'flat', make: () => flatTeeShot(quality, adult) },
  'child-flat': { name: 'Laid flat', angle: 'flat', make: () => flatTeeShot(quality, child) },
  'hoodie-front': { name: 'Front', angle: 'front', make: () => hoodieShot(quality, { back: false }) },
  'hoodie-back': { name: 'Back', angle: 'back', make: () => hoodieShot(quality, { back: true }) },
  'hoodie-chest': {
    name: 'Left chest, close up',
    angle: 'close-up',
    make: () => hoodieShot(quality, { back: false, near: { x: 70, y: 176, sideMm: 250 } }),
  },
  'cap-front': { name: 'Front', angle: 'front', make: () => capShot(quality, 'front') },
  'cap-side': { name: 'Left side', angle: 'side', make: () => capShot(quality, 'side') },
  'tote-front': { name: 'Front', angle: 'front', make: () => toteShot(quality, sideOfTote) },
  'tote-back': { name: 'Back', angle: 'back', make: () => toteShot(quality, { ...sideOfTote, key: 'main.back' }) },
  'tote-near': {
    name: 'Close up',
    angle: 'close-up',
    make: () => toteShot(quality, sideOfTote, { x: 20, y: 190, sideMm: 260 }),
  },
  'tote-side': {
    name: 'From the side',
    angle: 'angle',
    make: () => toteShot(quality, sideOfTote, undefined, -27),
  },
  'tote-whole-front': { name: 'Front', angle: 'front', make: () => toteShot(quality, wholeTote) },
  'tote-whole-back': { name: 'Back', angle: 'back', make: () => toteShot(quality, { ...wholeTote, key: 'main.back' }) },
  'towel-front': { name: 'Over a rail', angle: 'front', make: () => towelShot(quality) },
  'cushion-front': {
    name: 'Front',
    angle: 'front',
    make: () => cushionShot(quality, 'main.front', 457.2, { size: '18in' }),
  },
  'cushion-back': {
    name: 'Back',
    angle: 'back',
    make: () => cushionShot(quality, 'main.back', 457.2, { size: '18in' }),
  },
  'cushion-angle': {
    name: 'At an angle',
    angle: 'angle',
    make: () => cushionShot(quality, 'main.front', 457.2, { size: '18in' }, 31),
  },
  ...mug('mug', MUG_11, '11oz'),
  ...mug('mug-15', MUG_15, '15oz'),
  'cup-front': turned('Front', 'front', 0, vessel(CUP, 0, {})),
  'cup-handle-right': turned('Handle right', 'handle-right', 70, vessel(CUP, 70, {})),
  'bottle-front': turned('Front', 'front', 0, vessel(BOTTLE_500, 0, { size: '500ml' })),
  'bottle-turned': turned('Turned', 'turned-view', 60, vessel(BOTTLE_500, 60, { size: '500ml' })),
  'bottle-750-front': turned('Front', 'front', 0, vessel(BOTTLE_750, 0, { size: '750ml' })),
  'poster-iso': {
    name: 'On a wall',
    angle: 'front',
    make: () => posterShot(quality, { widthMm: 297, heightMm: 420 }, { size: 'a3' }),
  },
  'poster-3-4': {
    name: 'On a wall, 18 × 24',
    angle: 'front',
    make: () => posterShot(quality, { widthMm: 457.2, heightMm: 609.6 }, { size: '18x24' }),
  },
  'poster-2-3': {
    name: 'On a wall, 24 × 36',
    angle: 'front',
    make: () => posterShot(quality, { widthMm: 609.6, heightMm: 914.4 }, { size: '24x36' }),
  },
  'poster-iso-flat': {
    name: 'Flat',
    angle: 'flat',
    make: () => flatPosterShot(quality, { widthMm: 297, heightMm: 420 }, { size: 'a3' }),
  },
  'poster-3-4-flat': {
    name: 'Flat, 18 × 24',
    angle: 'flat',
    make: () => flatPosterShot(quality, { widthMm: 457.2, heightMm: 609.6 }, { size: '18x24' }),
  },
  'poster-2-3-flat': {
    name: 'Flat, 24 × 36',
    angle: 'flat',
    make: () => flatPosterShot(quality, { widthMm: 609.6, heightMm: 914.4 }, { size: '24x36' }),
  },
  'framed-iso': {
    name: 'Framed',
    angle: 'front',
    make: () => framedShot(quality, { widthMm: 297, heightMm: 420 }, { size: 'a3' }),
  },
  'framed-near': {
    name: 'Corner, close up',
    angle: 'close-up',
    make: () => framedShot(quality, { widthMm: 297, heightMm: 420 }, { size: 'a3' }, { x: 66, y: 74, sideMm: 200 }),
  },
  'logbook-front': { name: 'Front cover', angle: 'front', make: () => logbookShot(quality, 'main.cover', false) },
  'logbook-back': { name: 'Back cover', angle: 'back', make: () => logbookShot(quality, 'main.back-cover', false) },
  'logbook-angle': {
    name: 'At an angle',
    angle: 'angle',
    chosenOnly: true,
    make: () => logbookShot(quality, 'main.cover', true),
  },
  'logbook-open': { name: 'Open, both covers', angle: 'open', make: () => openLogbookShot(quality) },
  'sticker-a6': { name: 'Sheet', angle: 'front', make: () => stickerShot(quality, 105, 148, { size: 'a6' }) },
  'sticker-near': {
    name: 'Corner, close up',
    angle: 'close-up',
    make: () => stickerShot(quality, 105, 148, { size: 'a6' }, { x: 72, y: 110, sideMm: 90 }),
  },
  'pennant-front': {
    name: 'Front',
    angle: 'front',
    make: () => pennantShot(quality, 280, 186, 33.6, { size: 'large' }),
  },
  'pennant-angle': {
    name: 'At an angle',
    angle: 'angle',
    make: () => pennantShot(quality, 280, 186, 33.6, { size: 'large' }, 27),
  },
  'set-front': { name: 'The set', angle: 'front', make: () => setShot(quality) },
};

const wanted = process.argv.slice(2);
for (const [code, { name, angle, turnDeg, chosenOnly, make }] of Object.entries(shots)) {
  if (wanted.length > 0 && !wanted.includes(code)) continue;
  const began = Date.now();
  const about = {
    code,
    name,
    angle,
    ...(turnDeg === undefined ? {} : { turnDeg }),
    ...(chosenOnly ? { chosenOnly } : {}),
  };
  if (GRIDS) {
    const { key, part } = await fullestPart(path.join(OUT, code));
    quality = { size: SIZE, samples: 256, bare: true, part };
    await writeGrid(GRIDS, code, key, part, await make());
  } else await writeShot(path.join(OUT, code), about, await make());
  process.stdout.write(`${code} in ${((Date.now() - began) / 1000).toFixed(1)} s\n`);
}
