import fs from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import type { Matrix } from '../../src/core/geometry/matrix';
import type { ShotDocument } from '../../src/core/shot/shot';

/** Passes in the making: linear light as floats, coverage 0 to 1, one entry a pixel (rest three). */
export interface Passes {
  readonly size: number;
  readonly rest: Float32Array;
  readonly shade: Float32Array;
  readonly specular: Float32Array;
  readonly fabric: Float32Array;
  readonly areas: {
    [key: string]: {
      variant: Record<string, string>;
      coverage: Float32Array;
      u: Float32Array;
      v: Float32Array;
      flat?: Matrix;
    };
  };
}

export function newPasses(size: number): Passes {
  const n = size * size;
  return {
    size,
    rest: new Float32Array(n * 3),
    shade: new Float32Array(n),
    specular: new Float32Array(n),
    fabric: new Float32Array(n),
    areas: {},
  };
}

/** Adds an empty print area and gives it. */
export function addArea(passes: Passes, key: string, variant: Record<string, string>, flat?: Matrix) {
  const n = passes.size ** 2;
  return (passes.areas[key] = {
    variant,
    coverage: new Float32Array(n),
    u: new Float32Array(n),
    v: new Float32Array(n),
    flat,
  });
}

const max = (values: Float32Array) => values.reduce((m, v) => (v > m ? v : m), 0);

async function write16(file: string, values: Float32Array, size: number, channels: 1 | 3, low: number, high: number) {
  const data = Uint16Array.from(values, (v) => Math.round(Math.min(1, Math.max(0, (v - low) / (high - low))) * 65535));
  await sharp(data, { raw: { width: size, height: size, channels } })
    .toColourspace(channels === 3 ? 'rgb16' : 'grey16')
    .png({ compressionLevel: 9, adaptiveFiltering: true })
    .toFile(file);
}

async function write8(file: string, values: Float32Array, size: number) {
  await sharp(
    Uint8Array.from(values, (v) => Math.round(Math.min(1, Math.max(0, v)) * 255)),
    { raw: { width: size, height: size, channels: 1 } },
  )
    .toColourspace('b-w')
    .png({ compressionLevel: 9 })
    .toFile(file);
}

/** Rounded to a step that the eye cannot see, so that the files stay small. */
const step = (values: Float32Array, by: number) => values.map((v) => Math.round(v / by) * by);

/** Writes a shot folder: shot.json and its passes. */
export async function writeShot(
  folder: string,
  about: Pick<ShotDocument, 'code' | 'name' | 'angle'>,
  passes: Passes,
): Promise<void> {
  fs.mkdirSync(folder, { recursive: true });
  const { size } = passes;
  const at = (name: string) => path.join(folder, name);
  // Exposure: the 95th percentile of shade in the print areas is 1, or inks come out lighter than the file.
  const lit = Object.values(passes.areas).flatMap((area) =>
    Array.from(passes.shade).filter((_, i) => area.coverage[i]! > 0.99),
  );
  const exposure = 1 / lit.sort((a, b) => a - b)[Math.floor(lit.length * 0.95)]!;
  const shade = step(
    passes.shade.map((v) => v * exposure),
    1 / 2048,
  );
  const scales = {
    rest: Math.max(1, max(passes.rest)),
    shade: Math.max(1, max(shade)),
    specular: Math.max(0.01, max(passes.specular)),
  };
  await write16(at('rest.png'), step(passes.rest, 1 / 4096), size, 3, 0, scales.rest);
  await write16(at('shade.png'), shade, size, 1, 0, scales.shade);
  await write16(at('specular.png'), step(passes.specular, 1 / 4096), size, 1, 0, scales.specular);
  await write8(at('fabric.png'), passes.fabric, size);
  const areas: Record<string, ShotDocument['areas'][string]> = {};
  for (const [key, area] of Object.entries(passes.areas)) {
    const slug = key.replace('.', '-');
    const covered = (values: Float32Array) => values.filter((_, i) => area.coverage[i]! > 0);
    const bounds = (values: Float32Array): [number, number] => [
      Math.floor(covered(values).reduce((m, v) => Math.min(m, v), Infinity)) - 1,
      Math.ceil(max(covered(values))) + 1,
    ];
    const [uMm, vMm] = [bounds(area.u), bounds(area.v)];
    const map = new Float32Array(size * size * 3);
    for (let i = 0; i < size * size; i += 1) {
      if (area.coverage[i] === 0) continue;
      map[i * 3] = (area.u[i]! - uMm[0]) / (uMm[1] - uMm[0]);
      map[i * 3 + 1] = (area.v[i]! - vMm[0]) / (vMm[1] - vMm[0]);
    }
    await write8(at(`${slug}-coverage.png`), area.coverage, size);
    await write16(at(`${slug}-map.png`), map, size, 3, 0, 1);
    areas[key] = {
      variant: area.variant,
      coverage: { file: `${slug}-coverage.png`, encoding: 'coverage8', scale: 1 },
      map: { kind: 'traced', file: `${slug}-map.png`, uMm, vMm },
      ...(area.flat ? { flat: area.flat } : {}),
    };
  }
  const document: ShotDocument = {
    format: 'typica-shot',
    version: 1,
    ...about,
    widthPx: size,
    heightPx: size,
    tone: { straightTo: 0.8 },
    passes: {
      rest: { file: 'rest.png', encoding: 'linear16', scale: scales.rest },
      shade: { file: 'shade.png', encoding: 'linear16', scale: scales.shade },
      specular: { file: 'specular.png', encoding: 'linear16', scale: scales.specular },
      fabric: { file: 'fabric.png', encoding: 'coverage8', scale: 1 },
    },
    areas,
  };
  fs.writeFileSync(at('shot.json'), `${JSON.stringify(document, null, 2)}\n`);
}
