import fs from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { picturesOf, type Tried } from './pictured';

/** `npm run shots:plate OUT.png`: all shots on one plate, each on another of a few colors. */
const [out = 'docs/screenshots/shots.png'] = process.argv.slice(2);
const SIDE = 156;
const COLUMNS = 10;
const COLORS: readonly Tried[] = [
  ['#f3f0e8', false, '#7a2a33'],
  ['#33555f', false, '#f6f4ee'],
  ['#b5b9bd', true, '#1f2226'],
  ['#7a2a33', false, '#f0d9a8'],
  ['#1b1d21', false, '#d9a62e'],
];

const folder = import.meta.dirname;
const codes = fs.readdirSync(folder).filter((code) => fs.existsSync(path.join(folder, code, 'shot.json')));
const pictures: Buffer[] = [];
for (const [i, code] of codes.entries())
  pictures.push((await picturesOf(folder, code, SIDE, [COLORS[i % COLORS.length]!]))[0]!);
const rows = Math.ceil(codes.length / COLUMNS);
await sharp({ create: { width: COLUMNS * SIDE, height: rows * SIDE, channels: 3, background: '#f7f4ec' } })
  .composite(pictures.map((input, i) => ({ input, left: (i % COLUMNS) * SIDE, top: Math.floor(i / COLUMNS) * SIDE })))
  .png({ palette: true, quality: 90 })
  .toFile(out);
process.stdout.write(`${codes.length} shots on ${out}\n`);
