import path from 'node:path';
import { mugShot } from './mug';
import { writeShot } from './passes';
import { posterShot } from './poster';
import { teeShot } from './tee';

/** `npm run shots [CODE …]`: makes the passes of the demo's shots from scratch, the same bytes each time. */
const SIZE = 1600;
const mug11 = { radiusMm: 41, heightMm: 95, wrap: { widthMm: 200, heightMm: 85, fromTopMm: 5 } };

const shots = {
  'tee-front': {
    name: 'Front',
    angle: 'front',
    make: () => teeShot(SIZE, false, { topMm: 112, widthMm: 305, heightMm: 406 }),
  },
  'tee-back': {
    name: 'Back',
    angle: 'back',
    make: () => teeShot(SIZE, true, { topMm: 62, widthMm: 305, heightMm: 406 }),
  },
  'mug-front': { name: 'Front', angle: 'front', make: async () => mugShot(SIZE, mug11, 0, { size: '11oz' }) },
  'mug-handle-right': {
    name: 'Handle right',
    angle: 'handle-right',
    make: async () => mugShot(SIZE, mug11, 72, { size: '11oz' }),
  },
  'poster-iso': {
    name: 'On a wall',
    angle: 'front',
    make: async () => posterShot(SIZE, { widthMm: 297, heightMm: 420 }, { size: 'a3' }),
  },
  'poster-3-4': {
    name: 'On a wall, 18 × 24',
    angle: 'front',
    make: async () => posterShot(SIZE, { widthMm: 457.2, heightMm: 609.6 }, { size: '18x24' }),
  },
};

const wanted = process.argv.slice(2);
for (const [code, shot] of Object.entries(shots)) {
  if (wanted.length > 0 && !wanted.includes(code)) continue;
  const began = Date.now();
  await writeShot(
    path.join(import.meta.dirname, code),
    { code, name: shot.name, angle: shot.angle },
    await shot.make(),
  );
  process.stdout.write(`${code} in ${((Date.now() - began) / 1000).toFixed(1)} s\n`);
}
