import { newDocument, type Layer } from '../../../src/core/document/document';
import type { ArtworkSize, Finding } from '../../../src/core/findings/finding';
import { findFindings } from '../../../src/core/findings/findings';
import type { Checked } from '../../../src/core/findings/outcome';
import type { Lettering } from '../../../src/core/lettering/text';
import { setLettering } from '../../../src/server/lettering/fonts';
import { blankOf, chosenOf, type Good } from './goods';
import type { Picture } from './pictures';

/** One layer of a design, in mm on its area. */
export type Put =
  | ({ readonly art: Picture } & At)
  | ({ readonly text: Partial<Lettering> & { readonly text: string } } & At)
  | ({ readonly ornament: string; readonly color: string } & At);

interface At {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly turn?: number;
  readonly fit?: Layer['fit'];
  /** The same artwork as another layer of the design: its index. */
  readonly same?: number;
}

/** A design with what must be said of it, as the rules of the trade have it; nothing else that asks for something may be said. */
export interface Design {
  readonly kind: string;
  readonly name: string;
  readonly good: Good;
  readonly layers: readonly Put[];
  /** Codes that must be said; none for what lies just under the line, and for good designs. */
  readonly must: readonly string[];
  /** Codes that may be said besides: what a mistake brings with it. */
  readonly may?: readonly string[];
  /** Codes of notes that are looked at in this design: others ask for nothing. */
  readonly notes?: readonly string[];
  /** Whether both sizes are chosen. */
  readonly both?: boolean;
}

const PLAIN: Lettering = {
  text: '',
  family: 'noto-sans',
  style: 'regular',
  sizeMm: 20,
  align: 'center',
  tracking: 0,
  lineHeight: 1.2,
  fill: '#182a4a',
  outline: null,
  arcDeg: 0,
  boxWidthMm: 150,
  boxHeightMm: 40,
  shrinkToMm: null,
  wrap: true,
};

function layerOf(put: Put, i: number): Layer {
  const { x, y, w, turn = 0, fit = 'keep', same = i } = put;
  const placement = { xMm: x, yMm: y, widthMm: w, rotationDeg: turn, flipX: false, flipY: false };
  const base = {
    order: `a${i}`,
    name: `Layer ${i}`,
    geometryId: 'g',
    placement,
    fit,
    overrides: {},
    hidden: false,
    locked: false,
  };
  if ('ornament' in put) return { ...base, kind: 'ornament', ornament: put.ornament, color: put.color };
  return 'art' in put
    ? { ...base, kind: 'artwork', artworkId: `art${same}` }
    : { ...base, kind: 'text', lettering: { ...PLAIN, boxWidthMm: w, ...put.text } };
}

export interface CheckedProduct {
  readonly design: Design;
  readonly findings: readonly Finding[];
  /** All that the checks looked at. */
  readonly checked: Checked;
}

/** What the checks say of a design. */
export async function judge(design: Design): Promise<CheckedProduct> {
  const blank = blankOf(design.good);
  const layers = Object.fromEntries(design.layers.map((put, i) => [`l${i}`, layerOf(put, i)]));
  const doc = {
    ...newDocument('b1', 'GBP', design.name),
    areas: { 'main.front': { layers } },
    variants: chosenOf(blank, design.both ?? false),
  };
  const artworks: Record<string, ArtworkSize> = {};
  for (const [i, put] of design.layers.entries()) if ('art' in put) artworks[`art${i}`] = await put.art();
  const letterings: Record<string, Awaited<ReturnType<typeof setLettering>>> = {};
  for (const [id, layer] of Object.entries(layers))
    if (layer.kind === 'text') letterings[id] = await setLettering(layer.lettering);
  const checked = { doc, blank, artworks, letterings };
  return { design, checked, findings: findFindings(doc, blank, artworks, letterings) };
}

const codeOf = ({ id }: Finding): string => id.split(':')[0]!;

/** Codes that ask for something, each once. */
export const saidOf = ({ findings, design: { notes = [] } }: Pick<CheckedProduct, 'findings' | 'design'>): string[] => [
  ...new Set(findings.filter((one) => one.severity !== 'note' || notes.includes(codeOf(one))).map(codeOf)),
];

export interface Score {
  /** Said where it had to be, said where it had not, not said where it had to be. */
  readonly right: number;
  readonly wrong: number;
  readonly missed: number;
  readonly precision: number;
  readonly recall: number;
}

const scoreOf = (right: number, wrong: number, missed: number): Score => ({
  right,
  wrong,
  missed,
  precision: right + wrong === 0 ? 1 : right / (right + wrong),
  recall: right + missed === 0 ? 1 : right / (right + missed),
});

/** Precision and recall by code and all together, the share of good designs that are left alone, and what was wrong, in words. */
export function score(all: readonly CheckedProduct[]): {
  readonly byCode: ReadonlyMap<string, Score>;
  readonly total: Score;
  readonly quiet: number;
  readonly faults: readonly string[];
} {
  const counts = new Map<string, [right: number, wrong: number, missed: number]>();
  const faults: string[] = [];
  const count = (code: string, at: 0 | 1 | 2) => {
    const own = counts.get(code) ?? [0, 0, 0];
    own[at] += 1;
    counts.set(code, own);
  };
  let [good, quiet] = [0, 0];
  for (const judged of all) {
    const { kind, name, must, may = [] } = judged.design;
    const said = saidOf(judged);
    for (const code of must) {
      count(code, said.includes(code) ? 0 : 2);
      if (!said.includes(code)) faults.push(`${kind}: ${name}: missed ${code}; said ${said.join(', ') || 'nothing'}`);
    }
    for (const code of said)
      if (!must.includes(code) && !may.includes(code)) {
        count(code, 1);
        faults.push(`${kind}: ${name}: wrongly ${code}`);
      }
    if (kind === 'good') {
      good += 1;
      if (said.length === 0) quiet += 1;
    }
  }
  const sums = [...counts.values()].reduce((a, b) => [a[0] + b[0], a[1] + b[1], a[2] + b[2]], [0, 0, 0]);
  return {
    byCode: new Map([...counts].sort(([a], [b]) => (a < b ? -1 : 1)).map(([code, own]) => [code, scoreOf(...own)])),
    total: scoreOf(sums[0]!, sums[1]!, sums[2]!),
    quiet: good === 0 ? 1 : quiet / good,
    faults,
  };
}
