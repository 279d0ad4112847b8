import { describe, expect, it } from 'vitest';
import { demoBlank } from '../catalog/sample';
import { newDocument, type ArtworkLayer } from '../document/document';
import { sampleLayer } from '../document/sample';
import { findFindings } from './findings';

const layer = (widthMm: number, xMm = 140) => sampleLayer({}, { widthMm, xMm });
const findings = (l: ArtworkLayer, vector = false) =>
  findFindings({ ...newDocument('b1', 'GBP', ''), areas: { 'main.front': { layers: { l } } } }, demoBlank, {
    a1: { vector, widthPx: 3000, heightPx: 3000 },
  });

describe('findings of the slice', () => {
  it('says how sharp an artwork is: 3000 px at 300 DPI is 254 mm (25.4 mm to the inch)', () => {
    // What is sharp is not said: nobody would do anything about it.
    expect(findings(layer(200))).toEqual([]);
    expect(findings(layer(600))[0]!.says).toContain('It is sharp up to 254 mm wide.');
  });

  it('warns below 200 DPI and stops below 100 (common practice, no source)', () => {
    expect(findings(layer(260))).toEqual([]);
    expect(findings(layer(390)).map((f) => f.severity)).toContain('warn');
    expect(findings({ ...layer(800) })[0]).toMatchObject({ id: 'resolution:l', severity: 'stop' });
  });

  it('measures what is outside, and asks nothing of vectors', () => {
    expect(findings(layer(100, 20), true)[0]).toMatchObject({
      id: 'outside:l',
      says: 'Crest reaches 30.0 mm outside the front; that part will not print.',
    });
    expect(findings(layer(100), true)).toEqual([]);
  });
});
