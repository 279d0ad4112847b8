import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { Matrix } from '../../../src/core/geometry/matrix';
import type { Passes } from '../passes';
import { sceneFile, type Quality, type Scene } from './scene';

export type { Quality };

const SOURCES = path.join(import.meta.dirname, 'tracer');
const BUILT = path.resolve(import.meta.dirname, '../../../node_modules/.cache/typica-studio');

/** Builds a program of the studio when its sources are newer; says what is missing where it cannot. */
export function program(name: string, sources: readonly string[]): string {
  const out = path.join(BUILT, name);
  const files = [...sources, ...fs.readdirSync(SOURCES).filter((file) => file.endsWith('.h'))].map((file) =>
    path.join(SOURCES, file),
  );
  const built = fs.statSync(out, { throwIfNoEntry: false })?.mtimeMs ?? 0;
  if (files.every((file) => fs.statSync(file).mtimeMs < built)) return out;
  fs.mkdirSync(BUILT, { recursive: true });
  const args = ['-O3', '-std=c++20', '-mavx2', '-mfma', '-Wall', '-Wextra', '-o', out];
  const { status, stderr } = spawnSync(
    'g++',
    [...args, ...files.filter((file) => file.endsWith('.cpp')), '-lembree3', '-ltbb'],
    { encoding: 'utf8' },
  );
  if (status !== 0)
    throw new Error(
      `The studio's ${name} cannot be built. It needs Debian's g++, libembree-dev and libtbb-dev.\n${stderr ?? ''}`,
    );
  return out;
}

/** What of a shot's areas the tracer does not know. */
export interface AreaFacts {
  readonly variant: Record<string, string>;
  readonly flat?: Matrix;
}

export interface Wishes {
  /** The areas whose light becomes 1; absent: all in view. */
  readonly lightFrom?: readonly string[];
  /** Whether the good is sold in near-black colors. */
  readonly dark?: boolean;
  /** Whether it is sold in heather, which is laid in its pattern. */
  readonly heather?: boolean;
}

/** Planes by name, as the tracer wrote them. */
function planesOf(said: string, bytes: Buffer, n: number): Map<string, Float32Array> {
  const planes = new Map<string, Float32Array>();
  let at = 0;
  for (const line of said.trim().split('\n')) {
    const words = line.split(' ');
    const channels = Number(words.at(-1));
    const values = new Float32Array(n * channels);
    Buffer.from(values.buffer).set(bytes.subarray(at, (at += n * channels * 4)));
    planes.set(words.slice(1, -1).join(' '), values);
  }
  return planes;
}

/** Light of which 95 % of a print area's pixels have less: it becomes 1, so that inks are as light as their file. */
function fullLight(shade: Float32Array, on: readonly Float32Array[]): number {
  const lit: number[] = [];
  for (const coverage of on) for (let i = 0; i < shade.length; i += 2) if (coverage[i]! > 0.99) lit.push(shade[i]!);
  return lit.sort((a, b) => a - b)[Math.floor(lit.length * 0.95)] ?? 1;
}

/** Traces a scene into the passes of a shot. */
export function trace(scene: Scene, quality: Quality, areas: Record<string, AreaFacts>, wishes: Wishes = {}): Passes {
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-studio-'));
  try {
    const [input, output] = [path.join(folder, 'scene'), path.join(folder, 'passes')];
    fs.writeFileSync(input, sceneFile(scene, quality));
    const ran = spawnSync(program('trace', ['main.cpp', 'scene.cpp', 'path.cpp', 'denoise.cpp']), [input, output], {
      encoding: 'utf8',
      stdio: ['ignore', 'pipe', 'inherit'],
    });
    if (ran.status !== 0) throw new Error(`The tracer stopped: ${ran.error?.message ?? `exit ${ran.status}`}`);
    const planes = planesOf(ran.stdout, fs.readFileSync(output), quality.size ** 2);
    return passesOf(planes, quality.size, scene, areas, wishes);
  } finally {
    fs.rmSync(folder, { recursive: true, force: true });
  }
}

function passesOf(
  planes: Map<string, Float32Array>,
  size: number,
  scene: Scene,
  areas: Record<string, AreaFacts>,
  { lightFrom, dark = true, heather = false }: Wishes,
): Passes {
  const plane = (name: string) => planes.get(name)!;
  const has = (values: Float32Array) => values.some((value) => value > 0);
  const keys = scene.areas.map(({ key }) => key).filter((key) => has(plane(`area-coverage ${key}`)));
  const fabric = plane('fabric');
  const covered = (lightFrom ?? keys).map((key) => plane(`area-coverage ${key}`));
  const onCloth = has(fabric);
  const to = 1 / fullLight(plane('shade'), covered);
  const lit = (name: string) => plane(name).map((value) => value * to);
  const seen = plane('seen');
  return {
    size,
    rest: lit('rest'),
    shade: lit('shade'),
    direct: onCloth && dark ? lit('direct') : null,
    // What is added to a picture is only the part that is seen.
    specular: onCloth ? lit('specular').map((value, i) => value * seen[i]!) : null,
    fabric: onCloth ? fabric : null,
    front: has(plane('front')) ? plane('front') : null,
    good: plane('good'),
    pattern: onCloth && heather ? { u: plane('cloth-u'), v: plane('cloth-v') } : null,
    areas: Object.fromEntries(
      keys.map((key) => [
        key,
        {
          ...areas[key]!,
          coverage: plane(`area-coverage ${key}`),
          u: plane(`area-u ${key}`),
          v: plane(`area-v ${key}`),
          grid: plane(`area-grid ${key}`),
        },
      ]),
    ),
  };
}
