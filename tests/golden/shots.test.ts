import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { differenceCiede2000, formatHex } from 'culori';
import PerspT from 'perspective-transform';
import { describe, expect, it, vi } from 'vitest';
import { linearOf8 } from '@/core/artwork/color';
import { newRaster, type Raster } from '@/core/print/pixels';
import { nearBlack, ONE } from '@/core/shot/fabric';
import { finishOf } from '@/core/shot/finish';
import { homographyOf, project } from '@/core/shot/homography';
import { ShotKernel } from '@/core/shot/kernel';
import { planesOf } from '@/core/shot/planes';
import { reduceShot } from '@/core/shot/reduce';
import type { HomographyMap, Shot, ShotDocument } from '@/core/shot/shot';
import { decodeShot } from '@/server/images/shots';
import { cameraOf, type Vessel } from '../../demo/shots/goods/vessel';
import { BOTTLE_500, BOTTLE_750, CUP, MUG_11, MUG_15 } from '../../demo/shots/vessels';

const folder = path.resolve(import.meta.dirname, '../../demo/shots');
const catalog = path.resolve(import.meta.dirname, '../../demo/catalog');
const codes = fs.readdirSync(folder).filter((code) => fs.existsSync(path.join(folder, code, 'shot.json')));
const documentOf = (code: string) =>
  JSON.parse(fs.readFileSync(path.join(folder, code, 'shot.json'), 'utf8')) as ShotDocument;
const open = (code: string): Promise<Shot> =>
  decodeShot(documentOf(code), async (file) => fs.readFileSync(path.join(folder, code, file)));

interface CatalogFile {
  readonly shots: readonly string[];
  readonly options: readonly { readonly values: readonly { readonly hex?: string }[] }[];
}
const blanks = fs.readdirSync(catalog).flatMap((partner) =>
  fs
    .readdirSync(path.join(catalog, partner))
    .filter((file) => file !== 'partner.json')
    .map((file) => JSON.parse(fs.readFileSync(path.join(catalog, partner, file), 'utf8')) as CatalogFile),
);
const colorsOf = (code: string) => [
  ...new Set(
    blanks
      .filter((blank) => blank.shots.includes(code))
      .flatMap((blank) => blank.options.flatMap((option) => option.values.flatMap((value) => value.hex ?? []))),
  ),
];

// Each opens a shot of the demo whole: on a machine that others keep busy that takes its time.
vi.setConfig({ testTimeout: 60_000 });

const PX_PER_MM = 4;
const DISC_MM = 5;
const PAPER = finishOf('giclee', 'paper');

/** A white disc on nothing, its middle at a place in mm of the trim. */
function disc(widthMm: number, heightMm: number, [xMm, yMm]: readonly [number, number]): Raster {
  const raster = newRaster(Math.ceil(widthMm * PX_PER_MM), Math.ceil(heightMm * PX_PER_MM));
  const r = (DISC_MM / 2) * PX_PER_MM;
  const [cx, cy] = [xMm * PX_PER_MM, yMm * PX_PER_MM];
  for (let y = Math.floor(cy - r - 1); y <= cy + r + 1; y += 1)
    for (let x = Math.floor(cx - r - 1); x <= cx + r + 1; x += 1) {
      if (x < 0 || y < 0 || x >= raster.widthPx || y >= raster.heightPx) continue;
      const alpha = Math.round(255 * Math.min(1, Math.max(0, r - Math.hypot(x + 0.5 - cx, y + 0.5 - cy) + 0.5)));
      raster.data.fill(alpha, (y * raster.widthPx + x) * 4, (y * raster.widthPx + x) * 4 + 4);
    }
  return raster;
}

/** Where a disc is seen: the centroid of what it changes. It is white on black, or black on what is white by itself. */
function seenAt(
  kernel: ShotKernel,
  areaKey: string,
  size: readonly [number, number],
  place: readonly [number, number],
  ink: 'white' | 'black' = 'white',
) {
  const ground = { hex: ink === 'white' ? '#000000' : '#ffffff', heather: false };
  kernel.print(areaKey, null, PAPER);
  const bare = kernel.picture(ground).slice();
  const raster = disc(size[0], size[1], place);
  if (ink === 'black') for (let i = 0; i < raster.data.length; i += 4) raster.data.fill(0, i, i + 3);
  kernel.print(areaKey, { raster, leftMm: 0, topMm: 0, pxPerMm: PX_PER_MM }, PAPER);
  const printed = kernel.picture(ground);
  kernel.print(areaKey, null, PAPER);
  let [sum, sx, sy] = [0, 0, 0];
  for (let i = 0; i < printed.length; i += 3) {
    const change = Math.abs(linearOf8[printed[i + 1]!]! - linearOf8[bare[i + 1]!]!);
    if (change < 0.01) continue;
    const p = i / 3;
    sum += change;
    sx += change * ((p % kernel.widthPx) + 0.5);
    sy += change * (Math.floor(p / kernel.widthPx) + 0.5);
  }
  return { x: sx / sum, y: sy / sum };
}

/** Whether the good takes its color where an area is, or the area lies on what keeps its own. */
function onFabric(shot: Shot, key: string): boolean {
  const { coverage } = shot.areas[key]!;
  let [on, all] = [0, 0];
  for (let i = 0; i < coverage.length; i += 7)
    if (coverage[i] === 255) {
      all += 1;
      if (shot.fabric?.[i] && shot.fabric[i]! > 127) on += 1;
    }
  return on * 2 > all;
}

describe('every shot of the demo', () => {
  it('is there for every blank', () => {
    expect(blanks.every((blank) => blank.shots.length > 0)).toBe(true);
    expect(blanks.flatMap((blank) => blank.shots).filter((code) => !codes.includes(code))).toEqual([]);
  });

  it('is no larger than it may be: 4 MB in all its files', () => {
    for (const code of codes) {
      const bytes = fs
        .readdirSync(path.join(folder, code))
        .map((file) => fs.statSync(path.join(folder, code, file)).size);
      expect(
        bytes.reduce((a, b) => a + b, 0),
        code,
      ).toBeLessThan(4e6);
    }
  });

  it('all of them together are below 160 MB, and no file is above 4 MB', () => {
    const sizes = codes.flatMap((code) =>
      fs.readdirSync(path.join(folder, code)).map((file) => fs.statSync(path.join(folder, code, file)).size),
    );
    expect(Math.max(...sizes)).toBeLessThan(4e6);
    expect(sizes.reduce((a, b) => a + b, 0)).toBeLessThan(160e6);
  });

  it('is traced: a map that was drawn by formula has no place among them', () => {
    expect(blanks.flatMap((blank) => blank.shots).length).toBeGreaterThan(60);
    for (const code of codes)
      for (const area of Object.values(documentOf(code).areas))
        expect(['traced', 'homography']).toContain(area.map.kind);
  });

  it.each(codes)('%s: light, colors and marks are as they must be', async (code) => {
    const shot = await open(code);
    expectFullLight(shot);
    const small = reduceShot(shot, 2);
    if (small.fabric) expectColors(small, colorsOf(code));
    expectMarks(small);
  });
});

/** Inks are as dark as the file where 95 % of the print areas are at 1 of light, within 5 %. */
function expectFullLight(shot: Shot): void {
  const lit: number[] = [];
  for (const area of Object.values(shot.areas))
    for (let i = 0; i < area.coverage.length; i += 3)
      if (area.coverage[i] === 255) lit.push((shot.shade!.values[i]! / 65535) * shot.shade!.scale);
  lit.sort((a, b) => a - b);
  expect(Math.abs(lit[Math.floor(lit.length * 0.95)]! - 1)).toBeLessThan(0.05);
}

const difference = differenceCiede2000();

/** Every swatch is kept within a CIEDE2000 of 4 where it is lit at 0.9 to 1.05, before tone; near-black ones have their curve. */
function expectColors(shot: Shot, colors: readonly string[]): void {
  // Straight up to white, so that what is measured is what was there before the shoulder.
  const planes = planesOf({ ...shot, straightTo: 0.9999, specular: null });
  const kernel = new ShotKernel(planes);
  const { box, light, cover, over } = planes;
  const near = Array.from(light, (value, i) => [value / ONE, i] as const).filter(
    ([value, i]) => i % 5 === 0 && cover![i] === 255 && over[i * 4] === 0 && value >= 0.9 && value <= 1.05,
  );
  for (const hex of colors.filter((color) => nearBlack(color) === 0)) {
    if (near.length === 0) continue;
    const picture = kernel.picture({ hex, heather: hex === '#b5b9bd' });
    const mean = [0, 0, 0];
    for (const [, i] of near) {
      const [x, y] = [box.leftPx + (i % box.widthPx), box.topPx + Math.floor(i / box.widthPx)];
      const o = (y * planes.widthPx + x) * 3;
      for (let c = 0; c < 3; c += 1) mean[c]! += linearOf8[picture[o + c]!]! / near.length;
    }
    const seen = formatHex({ mode: 'lrgb', r: mean[0]!, g: mean[1]!, b: mean[2]! })!;
    expect(difference(seen, hex), `${hex} seen as ${seen}`).toBeLessThan(4);
  }
}

/** Marks are seen within a pixel of where the shot's own map has them, on each of its areas. */
function expectMarks(shot: Shot): void {
  const kernel = new ShotKernel(planesOf(shot));
  let looked = 0;
  for (const [key, area] of Object.entries(shot.areas)) {
    const { uMm, vMm, coverage } = area;
    const mm = (value: number, [from, to]: readonly [number, number]) => from + (value / 65535) * (to - from);
    const clear = (i: number) => coverage[i] === 255 && !shot.front?.[i];
    const inView: number[] = [];
    for (let i = 0; i < coverage.length; i += 1)
      if ([-15, 0, 15].every((s) => clear(i + s) && clear(i + s * shot.widthPx))) inView.push(i);
    for (const share of inView.length > 200 ? [0.3, 0.7] : []) {
      const i = inView[Math.floor(inView.length * share)]!;
      const want = { x: (i % shot.widthPx) + 0.5, y: Math.floor(i / shot.widthPx) + 0.5 };
      const place = [mm(area.u[i]!, uMm), mm(area.v[i]!, vMm)] as const;
      const seen = seenAt(kernel, key, [uMm[1], vMm[1]], place, onFabric(shot, key) ? 'white' : 'black');
      expect(Math.hypot(seen.x - want.x, seen.y - want.y), `${key} at ${place.join()}`).toBeLessThan(1);
      looked += 1;
    }
  }
  expect(looked).toBeGreaterThan(0);
}

/** Where the camera sees a place on the wrap: by the vessel's measures, apart from how its shot was traced. */
function throughCamera(vessel: Vessel, turnDeg: number, uMm: number, vMm: number, sizePx: number) {
  const { eye, target, zoom } = cameraOf(vessel, turnDeg);
  const angle = (uMm - vessel.wrap.widthMm / 2) / vessel.radiusMm - (turnDeg * Math.PI) / 180;
  const p = [
    vessel.radiusMm * Math.sin(angle),
    vessel.heightMm - vessel.wrap.fromTopMm - vMm,
    vessel.radiusMm * Math.cos(angle),
  ] as const;
  const minus = (a: readonly number[], b: readonly number[]) => a.map((c, i) => c - b[i]!);
  const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, c, i) => sum + c * b[i]!, 0);
  const unit = (a: readonly number[]) => a.map((c) => c / Math.hypot(...a));
  const forward = unit(minus(target, eye));
  const right = unit([-forward[2]!, 0, forward[0]!]);
  const up = [
    right[1]! * forward[2]! - right[2]! * forward[1]!,
    right[2]! * forward[0]! - right[0]! * forward[2]!,
    right[0]! * forward[1]! - right[1]! * forward[0]!,
  ];
  const d = minus(p, eye);
  const depth = dot(d, forward);
  return {
    x: ((dot(d, right) / depth) * zoom + 1) * 0.5 * sizePx,
    y: (1 - (dot(d, up) / depth) * zoom) * 0.5 * sizePx,
  };
}

describe('what the geometry demands', () => {
  it.each<[string, Vessel, number]>([
    ['mug-front', MUG_11, 0],
    ['mug-handle-right', MUG_11, 72],
    ['cup-front', CUP, 0],
    ['bottle-front', BOTTLE_500, 0],
    ['mug-handle-left', MUG_11, -72],
    ['mug-turned-36', MUG_11, 36],
    ['mug-turned--36', MUG_11, -36],
    ['mug-15-front', MUG_15, 0],
    ['mug-15-handle-right', MUG_15, 72],
    ['mug-15-handle-left', MUG_15, -72],
    ['mug-15-turned-36', MUG_15, 36],
    ['mug-15-turned--36', MUG_15, -36],
    ['cup-handle-right', CUP, 70],
    ['bottle-turned', BOTTLE_500, 60],
    ['bottle-750-front', BOTTLE_750, 0],
  ])(
    'of a cylinder, %s: marks stand where its radius and the camera put them, within a pixel',
    async (code, vessel, turn) => {
      const shot = await open(code);
      const kernel = new ShotKernel(planesOf(shot));
      const { widthMm, heightMm } = vessel.wrap;
      const front = widthMm / 2 + (vessel.radiusMm * turn * Math.PI) / 180;
      let looked = 0;
      for (const [du, v] of [
        [0, 0.5],
        [-22, 0.25],
        [-18, 0.75],
      ] as const) {
        const place = [front + du, heightMm * v] as const;
        if (place[0] < 5 || place[0] > widthMm - 5) continue;
        const want = throughCamera(vessel, turn, place[0], place[1], shot.widthPx);
        const ink = onFabric(shot, 'main.wrap') ? 'white' : 'black';
        const seen = seenAt(kernel, 'main.wrap', [widthMm, heightMm], place, ink);
        expect(Math.hypot(seen.x - want.x, seen.y - want.y), place.join()).toBeLessThan(1);
        looked += 1;
      }
      expect(looked).toBeGreaterThan(0);
    },
  );

  it('a square of 20 mm on a mug’s wrap is as wide as its arc demands', async () => {
    const shot = await open('mug-front');
    const kernel = new ShotKernel(planesOf(shot));
    const { widthMm, heightMm } = MUG_11.wrap;
    const [u, v] = [widthMm / 2, heightMm / 2];
    const edges = [u - 10, u + 10].map((edge) => ({
      want: throughCamera(MUG_11, 0, edge, v, shot.widthPx),
      seen: seenAt(kernel, 'main.wrap', [widthMm, heightMm], [edge, v]),
    }));
    const width = (key: 'want' | 'seen') => edges[1]![key].x - edges[0]![key].x;
    expect(Math.abs(width('seen') - width('want'))).toBeLessThan(1);
    // 20 mm of arc are 2·41·sin(10/41) = 19.80 mm across: less than a flat 20 mm as near as the mug's front.
    const { eye, zoom } = cameraOf(MUG_11, 0);
    const flat = (20 / Math.hypot(eye[2] - 41, eye[1] - (95 - 5 - v))) * zoom * 0.5 * shot.widthPx;
    expect(width('seen') / flat).toBeLessThan(0.995);
    expect(width('seen') / flat).toBeGreaterThan(0.97);
  });

  it('of a perspective: marks stand where package perspective-transform puts them, within a pixel', async () => {
    const map = documentOf('logbook-angle').areas['main.cover']!.map as HomographyMap;
    const theirs = PerspT(
      [0, 0, 1, 0, 1, 1, 0, 1],
      map.cornersPx.flatMap(({ x, y }) => [x, y]),
    );
    const kernel = new ShotKernel(planesOf(await open('logbook-angle')));
    for (const place of [
      [30, 30],
      [74, 105],
      [120, 180],
    ] as const) {
      const [x, y] = theirs.transform(place[0] / 148, place[1] / 210);
      const seen = seenAt(kernel, 'main.cover', [148, 210], place, 'black');
      expect(Math.hypot(seen.x - x, seen.y - y)).toBeLessThan(1);
    }
  });

  it.each([
    ['poster-iso', 297, 420],
    ['poster-3-4', 457.2, 609.6],
    ['poster-2-3', 609.6, 914.4],
    ['poster-iso-flat', 297, 420],
    ['poster-3-4-flat', 457.2, 609.6],
    ['poster-2-3-flat', 609.6, 914.4],
  ])('of a poster, %s: its map is a homography near its corners too, within half a pixel', async (code, w, h) => {
    const shot = await open(code);
    const { u, v, uMm, vMm, coverage } = shot.areas['main.sheet']!;
    const mm = (i: number) => ({
      x: uMm[0] + (u[i]! / 65535) * (uMm[1] - uMm[0]),
      y: vMm[0] + (v[i]! / 65535) * (vMm[1] - vMm[0]),
    });
    // The pixel that is nearest to a place a tenth within each corner, and how far its place is from it.
    const near = (x: number, y: number) => {
      let [best, least] = [0, Infinity];
      for (let i = 0; i < coverage.length; i += 1) {
        if (coverage[i] !== 255) continue;
        const d = Math.hypot(mm(i).x - x, mm(i).y - y);
        if (d < least) [best, least] = [i, d];
      }
      return best;
    };
    const px = (i: number) => ({ x: (i % shot.widthPx) + 0.5, y: Math.floor(i / shot.widthPx) + 0.5 });
    const corners = [0.1, 0.9].flatMap((s) => [0.1, 0.9].map((t) => near(w * s, h * t)));
    const theirs = PerspT(
      corners.flatMap((i) => [mm(i).x, mm(i).y]),
      corners.flatMap((i) => [px(i).x, px(i).y]),
    );
    for (const [s, t] of [
      [0.5, 0.5],
      [0.25, 0.7],
      [0.04, 0.06],
      [0.96, 0.06],
      [0.04, 0.9],
      [0.9, 0.94],
    ] as const) {
      const i = near(w * s, h * t);
      const [x, y] = theirs.transform(mm(i).x, mm(i).y);
      expect(Math.hypot(x - px(i).x, y - px(i).y), `${s}, ${t}`).toBeLessThan(0.5);
    }
  });

  it('of what is seen flat: marks stand where the affine map puts them, within a pixel', async () => {
    for (const code of ['poster-iso', 'framed-iso', 'sticker-a6']) {
      const key = 'main.sheet';
      const shot = await open(code);
      const flat = documentOf(code).areas[key]!.flat!;
      const kernel = new ShotKernel(planesOf(shot));
      const { uMm, vMm } = shot.areas[key]!;
      for (const [s, t] of [
        [0.2, 0.2],
        [0.5, 0.6],
      ] as const) {
        const place = [uMm[1] * s, vMm[1] * t] as const;
        const seen = seenAt(kernel, key, [uMm[1], vMm[1]], place, onFabric(shot, key) ? 'white' : 'black');
        const want = { x: (place[0] - flat.e) / flat.a, y: (place[1] - flat.f) / flat.d };
        expect(Math.hypot(seen.x - want.x, seen.y - want.y), code).toBeLessThan(1);
      }
    }
  });

  it('the homography agrees with ImageMagick’s', () => {
    const quad = [
      { x: 120, y: 80 },
      { x: 430, y: 110 },
      { x: 410, y: 520 },
      { x: 90, y: 470 },
    ] as const;
    const pairs = ['0,0', '297,0', '297,420', '0,420'].map((from, i) => `${from} ${quad[i]!.x},${quad[i]!.y}`);
    const { stdout, stderr } = spawnSync(
      '/usr/bin/convert',
      ['-precision', '14', 'xc:red', '-verbose', '-distort', 'Perspective', pairs.join('  '), 'null:'],
      { encoding: 'utf8' },
    );
    const said = /PerspectiveProjection[\s\\]*'([^']+)'/.exec(stdout + stderr)![1]!;
    const theirs = [...said.split(',').map(Number), 1] as unknown as ReturnType<typeof homographyOf>;
    const ours = homographyOf(297, 420, quad);
    for (const [x, y] of [
      [10, 10],
      [148.5, 210],
      [280, 400],
    ] as const) {
      const [p, q] = [project(ours, { x, y }), project(theirs, { x, y })];
      expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(1e-6);
    }
  });

  it('what hangs before the print covers it: a hoodie’s cords', async () => {
    const shot = await open('hoodie-front');
    const kernel = new ShotKernel(planesOf(shot));
    const blue = { hex: '#4f7fa8', heather: false };
    const bare = kernel.picture(blue).slice();
    const raster = newRaster(1200, 1200);
    for (let i = 0; i < raster.data.length; i += 4) raster.data.set([200, 20, 20, 255], i);
    kernel.print('main.front', { raster, leftMm: 0, topMm: 0, pxPerMm: 4 }, finishOf('direct-to-garment', 'cotton'));
    const printed = kernel.picture(blue);
    let [covered, changed] = [0, 0];
    for (let i = 0; i < shot.front!.length; i += 1) {
      if (shot.front![i] !== 255 || shot.areas['main.front']!.coverage[i] !== 255) continue;
      covered += 1;
      if (printed[i * 3] !== bare[i * 3] || printed[i * 3 + 1] !== bare[i * 3 + 1]) changed += 1;
    }
    expect(covered).toBeGreaterThan(1500);
    expect(changed).toBe(0);
  });
});
