import sharp from 'sharp';
import { picturesOf } from './pictured';

/** `npm run shots:look FOLDER OUT.png SIDE CODE …`: shots on white, a middle color, heather and near-black, side by side. */
const [folder, out, side, ...codes] = process.argv.slice(2) as [string, string, string, ...string[]];
const SIDE = Number(side);

const rows: Buffer[][] = [];
for (const code of codes) rows.push(await picturesOf(folder, code, SIDE));
const across = Math.max(...rows.map((row) => row.length));
await sharp({ create: { width: across * SIDE, height: rows.length * SIDE, channels: 3, background: '#ffffff' } })
  .composite(rows.flatMap((row, y) => row.map((input, x) => ({ input, left: x * SIDE, top: y * SIDE }))))
  .png()
  .toFile(out);
