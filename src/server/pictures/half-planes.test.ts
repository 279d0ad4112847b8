import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { expect, it } from 'vitest';
import { dropUnusedPlanes } from './half-planes';

it('planes that nobody asked for in a month are thrown away, and no others', async () => {
  const home = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-planes-'));
  // Before anything was drawn there is no folder yet.
  await dropUnusedPlanes(home);
  const folder = path.join(home, 'cache', 'planes');
  fs.mkdirSync(folder, { recursive: true });
  const now = Date.UTC(2026, 10, 25);
  for (const [name, days] of [
    ['fresh.gz', 1],
    ['unused.gz', 31],
  ] as const) {
    const at = new Date(now - days * 86_400_000);
    fs.writeFileSync(path.join(folder, name), 'planes');
    fs.utimesSync(path.join(folder, name), at, at);
  }
  await dropUnusedPlanes(home, now);
  expect(fs.readdirSync(folder)).toEqual(['fresh.gz']);
  fs.rmSync(home, { recursive: true });
});
