import fs from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import type { Matrix } from '../../src/core/geometry/matrix';
import { packSteps } from '../../src/core/shot/steps';
import type { AreaMap, PassFile, PxBox, ShotDocument, TracedMap } from '../../src/core/shot/shot';

/** Passes in the making: linear light as floats, coverage 0 to 1, one entry a pixel (rest three). */
export interface Passes {
  readonly size: number;
  readonly rest: Float32Array;
  readonly shade: Float32Array;
  /** The part of the shade that comes straight from lights; null where no color of the good is near black. */
  readonly direct: Float32Array | null;
  readonly specular: Float32Array | null;
  /** Null where nothing of the good takes a color. */
  fabric: Float32Array | null;
  readonly front: Float32Array | null;
  readonly good: Float32Array | null;
  /** u, v over the fabric, mm; null where nobody lays anything in it. */
  readonly pattern: { readonly u: Float32Array; readonly v: Float32Array } | null;
  readonly areas: { [key: string]: AreaPasses };
}

export interface AreaPasses {
  variant: Record<string, string>;
  coverage: Float32Array;
  u: Float32Array;
  v: Float32Array;
  flat?: Matrix;
  /** The grid of `writeGrid`, as it is seen on the area; coverage. */
  grid?: Float32Array;
  /** In place of u and v: a map that is computed. */
  map?: AreaMap;
}

const max = (values: Float32Array) => values.reduce((m, v) => (v > m ? v : m), 0);
/** What 65535 stands for: 1 where nothing is brighter. */
const scaleOf = (light: Float32Array) => Math.max(1, Math.ceil(max(light) * 16) / 16);

/** The box of all pixels at which a plane is not 0, with some room. */
function boxOf(values: Float32Array, size: number): PxBox {
  let [left, top, right, bottom] = [size, size, 0, 0];
  for (let i = 0; i < values.length; i += 1) {
    if (values[i] === 0) continue;
    const [x, y] = [i % size, Math.floor(i / size)];
    if (x < left) left = x;
    if (x >= right) right = x + 1;
    if (y < top) top = y;
    if (y >= bottom) bottom = y + 1;
  }
  return { leftPx: left, topPx: top, widthPx: right - left, heightPx: bottom - top };
}

function cut(values: Float32Array, size: number, channels: number, box: PxBox): Float32Array {
  const out = new Float32Array(box.widthPx * box.heightPx * channels);
  for (let y = 0; y < box.heightPx; y += 1) {
    const from = ((box.topPx + y) * size + box.leftPx) * channels;
    out.set(values.subarray(from, from + box.widthPx * channels), y * box.widthPx * channels);
  }
  return out;
}

/**
 * How finely a shot is kept. Steps of light are evenly spaced to the eye: `seen` of what is only looked at (383 is one and a half to each of
 * 8-bit sRGB), `shade` of what other colors are multiplied by; no edge of a step is seen. Places of the pattern are kept much finer than the
 * fibers that are laid in it, those of a print area as they are, or in steps of a small part of a pixel.
 */
interface Fineness {
  readonly seen: number;
  readonly shade: number;
  readonly patternMm: number;
  readonly placeMm: number;
}
/** The finest that keeps a shot small enough is taken. */
const FINENESS: readonly Fineness[] = [
  { seen: 383, shade: 510, patternMm: 1 / 16, placeMm: 0 },
  { seen: 383, shade: 383, patternMm: 1 / 8, placeMm: 1 / 128 },
  { seen: 320, shade: 320, patternMm: 1 / 4, placeMm: 1 / 64 },
  { seen: 256, shade: 230, patternMm: 1 / 3, placeMm: 1 / 32 },
  { seen: 224, shade: 200, patternMm: 1 / 2, placeMm: 1 / 24 },
];
const MAX_BYTES = 2.6e6;

/** 16-bit PNG, with filters or without: which is smaller depends on how even a pass is. */
async function write16(
  file: string,
  data: Uint16Array,
  { widthPx: width, heightPx: height }: Pick<PxBox, 'widthPx' | 'heightPx'>,
  channels: 1 | 3,
) {
  const packed = (adaptiveFiltering: boolean) =>
    sharp(data, { raw: { width, height, channels } })
      .toColourspace(channels === 3 ? 'rgb16' : 'grey16')
      .png({ compressionLevel: 9, adaptiveFiltering })
      .toBuffer();
  const [filtered, plain] = [await packed(true), await packed(false)];
  fs.writeFileSync(file, filtered.length < plain.length ? filtered : plain);
}

async function write8(file: string, values: Float32Array, box: PxBox) {
  await sharp(
    Uint8Array.from(values, (v) => Math.round(Math.min(1, Math.max(0, v)) * 255)),
    { raw: { width: box.widthPx, height: box.heightPx, channels: 1 } },
  )
    .toColourspace('b-w')
    .png({ compressionLevel: 9 })
    .toFile(file);
}

/** The light at which the 95th percentile of the pixels in print areas lies: inks come out lighter than the file when it is not 1. */
function fullLight(passes: Passes): number {
  const lit: number[] = [];
  for (const area of Object.values(passes.areas))
    for (let i = 0; i < passes.shade.length; i += 3) if (area.coverage[i]! > 0.99) lit.push(passes.shade[i]!);
  return lit.sort((a, b) => a - b)[Math.floor(lit.length * 0.95)] ?? 1;
}

/** A box that can be halved. */
function evenBox({ leftPx, topPx, widthPx, heightPx }: PxBox, size: number): PxBox {
  const [left, top] = [leftPx & ~1, topPx & ~1];
  const to = (end: number) => Math.min(size & ~1, (end + 1) & ~1);
  return { leftPx: left, topPx: top, widthPx: to(leftPx + widthPx) - left, heightPx: to(topPx + heightPx) - top };
}

/** Half as large: the mean of what is covered. What is not takes it from its neighbors, so that nothing dark comes in at edges. */
function halved(values: Float32Array, cover: Float32Array, { widthPx, heightPx }: PxBox): Float32Array {
  const [w, h] = [widthPx / 2, heightPx / 2];
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y += 1)
    for (let x = 0; x < w; x += 1) {
      let [sum, weight] = [0, 0];
      for (let reach = 0; reach <= 3 && weight < 0.01; reach += 1)
        for (let j = -2 * reach; j < 2 + 2 * reach; j += 1)
          for (let i = -2 * reach; i < 2 + 2 * reach; i += 1) {
            const [px, py] = [2 * x + i, 2 * y + j];
            if (px < 0 || py < 0 || px >= widthPx || py >= heightPx) continue;
            const on = cover[py * widthPx + px]!;
            sum += values[py * widthPx + px]! * on;
            weight += on;
          }
      out[y * w + x] = weight > 0 ? sum / weight : 0;
    }
  return out;
}

type About = Pick<ShotDocument, 'code' | 'name' | 'angle' | 'turnDeg'>;

/** Writes a shot folder: shot.json and its passes. */
export async function writeShot(folder: string, about: About, passes: Passes): Promise<void> {
  for (const fineness of FINENESS) {
    await writeAs(folder, about, passes, fineness);
    const bytes = fs.readdirSync(folder).reduce((sum, file) => sum + fs.statSync(path.join(folder, file)).size, 0);
    if (bytes <= MAX_BYTES) return;
  }
}

async function writeAs(folder: string, about: About, passes: Passes, fine: Fineness): Promise<void> {
  fs.rmSync(folder, { recursive: true, force: true });
  fs.mkdirSync(folder, { recursive: true });
  const { size } = passes;
  const at = (name: string) => path.join(folder, name);
  const whole = { leftPx: 0, topPx: 0, widthPx: size, heightPx: size };
  const files: { -readonly [name in keyof ShotDocument['passes']]?: PassFile } = {};
  const linear = async (name: keyof typeof files, values: Float32Array | null, channels: 1 | 3, box: PxBox) => {
    if (!values || (name === 'specular' && max(values) < 0.002)) return;
    const inside = cut(values, size, channels, box);
    const steps = name === 'shade' ? fine.shade : fine.seen;
    await write16(at(`${name}.png`), packSteps(inside, channels, steps), box, channels);
    files[name] = {
      file: `${name}.png`,
      encoding: 'steps16',
      steps,
      scale: scaleOf(inside),
      ...(box === whole ? {} : { window: box }),
    };
  };
  const coverage = async (name: string, values: Float32Array, box: PxBox): Promise<PassFile> => {
    await write8(at(`${name}.png`), cut(values, size, 1, box), box);
    return { file: `${name}.png`, encoding: 'coverage8', scale: 1, window: box };
  };
  const map = async (
    name: string,
    { u, v }: { u: Float32Array; v: Float32Array },
    on: Float32Array,
    box: PxBox,
    stepMm = 0,
  ): Promise<TracedMap> => {
    const bounds = (values: Float32Array): [number, number] => {
      let [low, high] = [Infinity, -Infinity];
      for (let i = 0; i < values.length; i += 1)
        if (on[i]! > 0) [low, high] = [Math.min(low, values[i]!), Math.max(high, values[i]!)];
      return [Math.floor(low) - 1, Math.ceil(high) + 1];
    };
    const [uMm, vMm] = [bounds(u), bounds(v)];
    const [us, vs, covered] = [u, v, on].map((plane) => cut(plane, size, 1, box)) as [
      Float32Array,
      Float32Array,
      Float32Array,
    ];
    const words = new Uint16Array(us.length * 3);
    // Steps are whole numbers of those that 16 bits have.
    const placed = (mm: number, [low, high]: readonly [number, number]) => {
      const by = Math.max(1, Math.floor((stepMm / (high - low)) * 65535));
      return Math.min(65535, Math.round((((mm - low) / (high - low)) * 65535) / by) * by);
    };
    for (let i = 0; i < us.length; i += 1) {
      if (covered[i] === 0) continue;
      words[i * 3] = placed(us[i]!, uMm);
      words[i * 3 + 1] = placed(vs[i]!, vMm);
    }
    await write16(at(`${name}.png`), words, box, 3);
    return { kind: 'traced', file: `${name}.png`, uMm, vMm, window: box };
  };
  const exposure = 1 / fullLight(passes);
  const lit = new Float32Array(size * size);
  for (const plane of [passes.fabric, ...Object.values(passes.areas).map((area) => area.coverage)])
    if (plane) for (let i = 0; i < lit.length; i += 1) lit[i] = Math.max(lit[i]!, plane[i]!);
  await linear('rest', passes.rest, 3, whole);
  await linear(
    'shade',
    passes.shade.map((v) => v * exposure),
    1,
    boxOf(lit, size),
  );
  if (passes.direct) {
    const box = evenBox(boxOf(lit, size), size);
    const half = halved(
      cut(
        passes.direct.map((v) => v * exposure),
        size,
        1,
        box,
      ),
      cut(lit, size, 1, box),
      box,
    );
    const small = { ...box, widthPx: box.widthPx / 2, heightPx: box.heightPx / 2 };
    const steps = fine.shade;
    await write16(at('direct.png'), packSteps(half, 1, steps), small, 1);
    const scale = scaleOf(half);
    files.direct = { file: 'direct.png', encoding: 'steps16', steps, scale, window: box, reduced: 2 };
  }
  await linear('specular', passes.specular, 1, passes.specular ? boxOf(passes.specular, size) : whole);
  for (const name of ['fabric', 'front', 'good'] as const) {
    const values = passes[name];
    if (values && max(values) > 0) files[name] = await coverage(name, values, boxOf(values, size));
  }
  const areas: Record<string, ShotDocument['areas'][string]> = {};
  for (const [key, area] of Object.entries(passes.areas)) {
    const slug = key.replace('.', '-');
    if (area.map) {
      areas[key] = { variant: area.variant, map: area.map };
      continue;
    }
    const box = boxOf(area.coverage, size);
    areas[key] = {
      variant: area.variant,
      coverage: await coverage(`${slug}-coverage`, area.coverage, box),
      map: await map(`${slug}-map`, area, area.coverage, box, fine.placeMm),
      ...(area.flat ? { flat: area.flat } : {}),
    };
  }
  const document: ShotDocument = {
    format: 'typica-shot',
    version: 3,
    ...about,
    widthPx: size,
    heightPx: size,
    tone: { straightTo: 0.8 },
    passes: files as ShotDocument['passes'],
    ...(passes.pattern && passes.fabric
      ? { pattern: await map('pattern-map', passes.pattern, passes.fabric, boxOf(passes.fabric, size), fine.patternMm) }
      : {}),
    areas,
  };
  fs.writeFileSync(at('shot.json'), `${JSON.stringify(document, null, 2)}\n`);
}

/** Side of the pieces of grid that maps are held to, px. */
const CROP_PX = 128;

/** The part of a shot's picture in which most of its first area is in view. */
export async function fullestPart(folder: string): Promise<{ key: string; part: PxBox }> {
  const { areas } = JSON.parse(fs.readFileSync(path.join(folder, 'shot.json'), 'utf8')) as ShotDocument;
  const [key, { coverage }] = Object.entries(areas)[0]!;
  const window = coverage?.window;
  if (!coverage || !window) throw new Error(`${folder} has no coverage of ${key}.`);
  const { data, info } = await sharp(path.join(folder, coverage.file))
    .toColourspace('b-w')
    .raw()
    .toBuffer({ resolveWithObject: true });
  let [left, top, most] = [0, 0, -1];
  for (let y = 0; y + CROP_PX <= info.height; y += 16)
    for (let x = 0; x + CROP_PX <= info.width; x += 16) {
      let on = 0;
      for (let j = 4; j < CROP_PX; j += 8)
        for (let i = 4; i < CROP_PX; i += 8) on += data[(y + j) * info.width + x + i]!;
      // Toward the left edge rather than in the middle: where surfaces turn away, what is wrong is seen first.
      if (on > most * 1.02) [left, top, most] = [x, y, on];
    }
  return {
    key,
    part: { leftPx: window.leftPx + left, topPx: window.topPx + top, widthPx: CROP_PX, heightPx: CROP_PX },
  };
}

/** Writes how an area is seen with a grid on it (lines of 2 mm, 10 mm apart), 8-bit coverage, in a part of the picture: CODE.AREA.LEFT.TOP.png. */
export async function writeGrid(
  folder: string,
  code: string,
  key: string,
  part: PxBox,
  { size, areas }: Passes,
): Promise<void> {
  fs.mkdirSync(folder, { recursive: true });
  const file = path.join(folder, `${code}.${key}.${part.leftPx}.${part.topPx}.png`);
  await write8(file, cut(areas[key]!.grid!, size, 1, part), part);
}
