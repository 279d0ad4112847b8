import fs from 'node:fs/promises';
import path from 'node:path';

/** Hours after which a file that something left behind in the home's `tmp` is nobody's any more: the longest job takes half an hour. */
const LEFT_HOURS = 6;

/** When a file was written, or a folder last had a file of an order laid into it; null when it has gone meanwhile. */
async function lastUseMs(place: string): Promise<number | null> {
  const times = await Promise.all(
    [place, path.join(place, 'in')].map((one) =>
      fs.stat(one).then(
        ({ mtimeMs }) => mtimeMs,
        () => null,
      ),
    ),
  );
  const known = times.filter((time) => time !== null);
  return known.length > 0 ? Math.max(...known) : null;
}

/** Takes away what processes that were killed left in the home's `tmp`: folders of theirs, finished files that nobody took, halves of uploads. */
export async function dropLeftFiles(home: string, now = Date.now()): Promise<number> {
  const tmp = path.join(home, 'tmp');
  const made = path.join(tmp, 'made');
  let dropped = 0;
  for (const folder of [tmp, made])
    for (const name of await fs.readdir(folder).catch(() => [])) {
      const place = path.join(folder, name);
      if (place === made) continue;
      const usedMs = await lastUseMs(place);
      if (usedMs === null || now - usedMs < LEFT_HOURS * 3_600_000) continue;
      await fs.rm(place, { recursive: true, force: true });
      dropped += 1;
    }
  return dropped;
}
