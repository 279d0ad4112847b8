import { describe, expect, it } from 'vitest';
import { demoBlank } from '@/core/catalog/sample';
import { firstMarks, gridLines, handlesOf, readMarks, shapesOf, withHandle, withMeshSize } from './marking';

const photo = { widthPx: 1200, heightPx: 900 };
const area = { widthMm: 200, heightMm: 85 };

describe('marking a photograph', () => {
  it.each(['corners', 'cylinder', 'mesh'] as const)(
    'begins with %s that make sense, and shows what they mean',
    (kind) => {
      const marks = firstMarks(kind, photo, area);
      const { map, problem } = readMarks(marks, photo, area);
      expect(problem).toBeNull();
      expect(gridLines(map!).length).toBeGreaterThan(8);
      for (const points of gridLines(map!))
        for (const { x, y } of points) {
          expect(Number.isFinite(x) && Number.isFinite(y)).toBe(true);
        }
    },
  );

  it('moves one handle alone, and the bend of a body by its middle', () => {
    const corners = withHandle(firstMarks('corners', photo, area), 2, { x: 900.26, y: 700 });
    expect(handlesOf(corners)[2]!.at).toEqual({ x: 900.3, y: 700 });
    const body = firstMarks('cylinder', photo, area);
    const bend = handlesOf(body)[4]!.at;
    const bent = withHandle(body, 4, { x: bend.x, y: bend.y + 12 });
    expect(handlesOf(bent)[4]!.at.y).toBeCloseTo(bend.y + 12, 6);
    expect(handlesOf(bent)[0]!.at).toEqual(handlesOf(body)[0]!.at);
    const edge = withHandle(body, 3, { x: 1000, y: 600 });
    expect(handlesOf(edge)[3]!.at).toEqual({ x: 1000, y: 600 });
  });

  it('says at once what is wrong', () => {
    const marks = withHandle(firstMarks('corners', photo, area), 0, { x: 1100, y: 890 });
    expect(readMarks(marks, photo, area).problem).toMatch(/cross|inward/);
  });

  it('keeps the surface when a mesh gets more points', () => {
    const mesh = firstMarks('mesh', photo, area);
    if (mesh.kind !== 'mesh') throw new Error('a mesh was asked for');
    const finer = withMeshSize(mesh, 7, 5);
    expect(handlesOf(finer)).toHaveLength(35);
    expect(handlesOf(finer)[0]!.at).toEqual(mesh.points[0]);
    expect(handlesOf(finer).at(-1)!.at).toEqual(mesh.points.at(-1));
  });

  it('knows the shapes that a photograph can show, each with a variant of its own', () => {
    const shapes = shapesOf(demoBlank);
    expect(shapes.map(({ key, variant }) => [key, variant])).toEqual([
      ['main.front/g-small', { size: 's' }],
      ['main.front/g-large', { size: 'xxl' }],
      ['main.back/g-small', { size: 's' }],
      ['main.back/g-large', { size: 'xxl' }],
    ]);
  });
});
