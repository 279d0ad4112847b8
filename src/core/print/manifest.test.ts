import { parse } from 'csv-parse/sync';
import { describe, expect, it } from 'vitest';
import { demoBlank } from '../catalog/sample';
import { newDocument } from '../document/document';
import { manifestCsv, manifestEntry, withUniqueFiles } from './manifest';
import { planPrintFiles } from './plan';

const star = {
  kind: 'ornament' as const,
  ornament: 'star-five',
  color: '#112233',
  name: 'Star',
  order: 'a0',
  geometryId: 'g-small',
  fit: 'keep' as const,
  overrides: {},
  hidden: false,
  locked: false,
  placement: { xMm: 140, yMm: 150, widthMm: 100, rotationDeg: 0, flipX: false, flipY: false },
};
const doc = {
  ...newDocument('b1', 'GBP', 'Tee'),
  areas: { 'main.front': { layers: { star } } },
  variants: Object.fromEntries(demoBlank.variants.map((v) => [v.key, {}])),
};
const entries = planPrintFiles(doc, demoBlank, new Map()).map((plan, i) =>
  manifestEntry(demoBlank, plan, 'png', `hash${i}`),
);

describe('a manifest', () => {
  it('says of each file what it is for, in mm and in pixels', () => {
    // 280 × 380 mm at 300 DPI
    expect(entries[0]).toEqual({
      file: 'front_s-m.png',
      area: 'Front',
      areaKey: 'main.front',
      geometryId: 'g-small',
      technique: 'direct-to-garment',
      sizes: ['S', 'M'],
      colors: ['Estuary', 'Sandbar'],
      skus: ['MW-TEE-ESTUARY-S', 'MW-TEE-ESTUARY-M', 'MW-TEE-SANDBAR-S', 'MW-TEE-SANDBAR-M'],
      widthMm: 280,
      heightMm: 380,
      bleedMm: 0,
      widthPx: 3307,
      heightPx: 4488,
      dpi: 300,
      sha256: 'hash0',
    });
  });

  it('as CSV comes back from a general CSV package', () => {
    const rows = parse(manifestCsv(entries), { columns: true }) as Record<string, string>[];
    expect(rows).toHaveLength(2);
    expect(rows[1]).toMatchObject({
      file: 'front_xxl.png',
      sizes: 'XXL',
      colors: 'Estuary|Sandbar',
      widthPx: '4016',
      sha256: 'hash1',
    });
  });

  it('gives no name twice', () => {
    const twice = withUniqueFiles([entries[0]!, entries[0]!, entries[1]!, entries[0]!]);
    expect(twice.map((entry) => entry.file)).toEqual([
      'front_s-m.png',
      'front_s-m_2.png',
      'front_xxl.png',
      'front_s-m_3.png',
    ]);
  });
});
