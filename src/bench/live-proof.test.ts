import { describe, expect, it } from 'vitest';
import { demoBlank } from '@/core/catalog/sample';
import { sampleLayer } from '@/core/document/sample';
import { newRaster } from '@/core/print/pixels';
import { ShotKernel } from '@/core/shot/kernel';
import { planesOf } from '@/core/shot/planes';
import { flatShot } from '@/core/shot/sample';
import type { ArtworkSource } from '@/core/print/plan';
import { artworksIn, LiveProof, type ProofScene } from './live-proof';

const source: ArtworkSource = { id: 'a1', sha256: 'a1', vector: false, widthPx: 64, heightPx: 64 };
const red = newRaster(64, 64);
for (let i = 0; i < red.data.length; i += 4) red.data.set([255, 0, 0, 255], i);
const placed = (xMm: number, tint?: string) => ({
  'main.front': {
    layers: {
      l: {
        ...sampleLayer({}, { xMm, yMm: 16, widthMm: 8 }),
        ...(tint ? { versions: { sandbar: { tint } } } : {}),
      },
    },
  },
});
const scene = (areas: ProofScene['areas']): ProofScene => ({
  areas,
  blank: demoBlank,
  shot: { areas: { 'main.front': { variant: { size: 'm' } } } },
  artworks: new Map([['a1', source]]),
  texts: {},
});
/** What letters draw: all of a box of 10 mm. */
const square = [
  { kind: 'M', x: 0, y: 0 },
  { kind: 'L', x: 10, y: 0 },
  { kind: 'L', x: 10, y: 10 },
  { kind: 'L', x: 0, y: 10 },
  { kind: 'Z' },
] as const;
const chalk = { hex: '#f6f4ee', heather: false };
const estuary = { hex: '#2d4a53', heather: false };
const redsAt = (picture: Uint8Array, y: number) =>
  Array.from({ length: 64 }, (_, x) => picture[(y * 64 + x) * 4]! > 150 && picture[(y * 64 + x) * 4 + 1]! < 80);

describe('the live proof', () => {
  const open = () => {
    const proof = new LiveProof(new ShotKernel(planesOf(flatShot()), { step: 4 }));
    proof.hold('a1', red);
    return proof;
  };

  it('shows a layer where it is being dragged, and nothing of where it was', () => {
    const proof = open();
    // 1 px a mm from (16, 16): the middle at 8 mm is seen at 24 px.
    const before = redsAt(proof.draw(scene(placed(8)), 'estuary', estuary), 32);
    const after = redsAt(proof.draw(scene(placed(24)), 'estuary', estuary), 32);
    expect([before[24], before[40]]).toEqual([true, false]);
    expect([after[24], after[40]]).toEqual([false, true]);
  });

  it('shows versions of a color, hidden layers not at all, and what it needs', () => {
    const proof = open();
    const areas = placed(16, '#00ff00');
    expect(artworksIn(scene(areas), 'estuary').map(({ id }) => id)).toEqual(['a1']);
    const sandbar = proof.draw(scene(areas), 'sandbar', { hex: '#e9e1d0', heather: false });
    expect(sandbar[(32 * 64 + 32) * 4 + 1]).toBeGreaterThan(200);
    const hidden = { 'main.front': { layers: { l: { ...areas['main.front'].layers.l, hidden: true } } } };
    const bare = proof.draw(scene(hidden), 'estuary', estuary);
    expect([...bare.slice((32 * 64 + 32) * 4, (32 * 64 + 32) * 4 + 4)]).toEqual([45, 74, 83, 255]);
  });

  it('draws letters when they are set, which is later than their layer', () => {
    const lettering = { fill: '#ffffff', boxWidthMm: 10, boxHeightMm: 10 };
    const layer = { ...placed(16)['main.front'].layers.l, kind: 'text' as const, lettering };
    const { artworkId: _, ...text } = layer;
    const areas = { 'main.front': { layers: { t: { ...text, placement: { ...text.placement, widthMm: 10 } } } } };
    const proof = open();
    const at = (texts: ProofScene['texts']) =>
      proof.draw({ ...scene(areas as never), texts }, 'estuary', estuary)[(32 * 64 + 32) * 4]!;
    expect(at({})).toBe(45);
    expect(at({ t: [{ path: square, color: '#ffffff' }] })).toBeGreaterThan(200);
  });

  it('sews letters that are set later in their own thread', () => {
    const geometries = Object.fromEntries(
      Object.entries(demoBlank.geometries).map(([id, one]) => [
        id,
        { ...one, widthMm: 48, heightMm: 48, technique: 'embroidery' as const },
      ]),
    );
    const lettering = { fill: '#182a4a', boxWidthMm: 10, boxHeightMm: 10 };
    const { artworkId: _, ...shared } = placed(4)['main.front'].layers.l;
    const placement = { ...shared.placement, xMm: 24, widthMm: 10 };
    const t = { ...shared, kind: 'text' as const, order: 'a1', lettering, placement };
    const areas = { 'main.front': { layers: { ...placed(4)['main.front'].layers, t } } } as never;
    const proof = open();
    const at = (texts: ProofScene['texts']) => {
      const picture = proof.draw({ ...scene(areas), blank: { ...demoBlank, geometries }, texts }, 'sandbar', chalk);
      return [...picture.slice((32 * 64 + 40) * 4, (32 * 64 + 40) * 4 + 3)];
    };
    expect(at({})[0]).toBeGreaterThan(200);
    const [r, , b] = at({ t: [{ path: square, color: '#182a4a' }] });
    expect(b! - r!).toBeGreaterThan(20);
  });

  it('draws what came late as soon as it is there', () => {
    const proof = new LiveProof(new ShotKernel(planesOf(flatShot()), { step: 4 }));
    const late = scene(placed(16));
    expect(redsAt(proof.draw(late, 'estuary', estuary), 32)[32]).toBe(false);
    expect(proof.holds('a1')).toBe(false);
    proof.hold('a1', red);
    expect(redsAt(proof.draw(late, 'estuary', estuary), 32)[32]).toBe(true);
  });
});
