import sharp from 'sharp';
import { checkShotDocument, type PassFile, type Shot, type ShotArea, type ShotDocument } from '@/core/shot/shot';
import { reduceShot } from '@/core/shot/reduce';
import { TypicaError } from '@/core/errors';
import { readBlob } from '../blobs/blobs';
import type { Context } from '../context';

/** Reads a shot's passes. `read` gives the bytes of a file that the document names. Throws `shot-invalid` for a damaged one. */
export async function decodeShot(value: unknown, read: (file: string) => Promise<Buffer>): Promise<Shot> {
  const doc = checkShotDocument(value);
  const n = doc.widthPx * doc.heightPx;
  const raw = async (file: string, channels: number, wide: boolean): Promise<Buffer> => {
    try {
      let image = sharp(await read(file), { limitInputPixels: 70_000_000 });
      image = wide ? image.toColourspace(channels === 3 ? 'rgb16' : 'grey16') : image.toColourspace('b-w');
      const { data, info } = await image.raw(wide ? { depth: 'ushort' } : {}).toBuffer({ resolveWithObject: true });
      if (info.width !== doc.widthPx || info.height !== doc.heightPx || info.channels !== channels)
        throw new Error(`it has ${info.width}×${info.height}×${info.channels}`);
      return data;
    } catch (error) {
      throw new TypicaError(
        'invalid',
        'shot-invalid',
        `The pass ${file} of the shot ${doc.code} cannot be read (${(error as Error).message}).`,
        {},
        error,
      );
    }
  };
  const words = async (file: string, channels: 1 | 3): Promise<Uint16Array> => {
    const data = await raw(file, channels, true);
    // A copy: the buffer's start may not be even.
    return new Uint16Array(data.buffer.slice(data.byteOffset, data.byteOffset + n * channels * 2));
  };
  const bytes = async (pass: PassFile): Promise<Uint8Array> => new Uint8Array(await raw(pass.file, 1, false));
  const area = async (a: ShotDocument['areas'][string]): Promise<ShotArea> => {
    const [coverage, map] = await Promise.all([bytes(a.coverage), words(a.map.file, 3)]);
    const [u, v] = [new Uint16Array(n), new Uint16Array(n)];
    for (let i = 0; i < n; i += 1) {
      u[i] = map[i * 3]!;
      v[i] = map[i * 3 + 1]!;
    }
    return { coverage, u, v, uMm: a.map.uMm, vMm: a.map.vMm };
  };
  const { rest, shade, fabric, specular } = doc.passes;
  const [restValues, shadeValues, fabricValues, specularValues, areas] = await Promise.all([
    words(rest.file, 3),
    words(shade.file, 1),
    bytes(fabric),
    specular ? words(specular.file, 1) : null,
    Promise.all(Object.entries(doc.areas).map(async ([key, a]) => [key, await area(a)] as const)),
  ]);
  return {
    widthPx: doc.widthPx,
    heightPx: doc.heightPx,
    straightTo: doc.tone.straightTo,
    rest: { values: restValues, scale: rest.scale },
    shade: { values: shadeValues, scale: shade.scale },
    specular: specular && specularValues ? { values: specularValues, scale: specular.scale } : null,
    fabric: fabricValues,
    areas: Object.fromEntries(areas),
  };
}

const kept = new Map<string, Promise<Shot>>();
const KEPT_SHOTS = 6;

/** A stored shot at 1/factor of its size, kept in memory for the next picture of it. */
export function loadShot(
  ctx: Context,
  shot: { id: string; document: ShotDocument; contentHash: string },
  factor: number,
): Promise<Shot> {
  const key = `${shot.contentHash}/${factor}`;
  const have = kept.get(key);
  if (have) {
    kept.delete(key);
    kept.set(key, have);
    return have;
  }
  const loading = (async () => {
    const passes = await ctx.db.rows<{ file: string; sha256: string }>(
      'SELECT file, sha256 FROM shot_pass WHERE shot_id = ?',
      [shot.id],
    );
    const hashes = new Map(passes.map((pass) => [pass.file, pass.sha256]));
    const whole = await decodeShot(shot.document, (file) => readBlob(ctx, hashes.get(file) ?? ''));
    return reduceShot(whole, factor);
  })();
  kept.set(key, loading);
  loading.catch(() => kept.delete(key));
  while (kept.size > KEPT_SHOTS) kept.delete(kept.keys().next().value!);
  return loading;
}
