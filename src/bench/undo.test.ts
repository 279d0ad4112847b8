import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoBlank } from '@/core/catalog/sample';
import { checkDocument } from '@/core/document/check';
import { newDocument, type ProductDocument } from '@/core/document/document';
import { ORNAMENTS } from '@/core/ornaments/ornaments';
import { moving } from './gestures/moving';
import { sizing } from './gestures/sizing';
import { turning } from './gestures/turning';
import {
  addOrnament,
  addText,
  changeLayer,
  copyArea,
  duplicateLayers,
  placeLayer,
  removeLayer,
  reorder,
} from './placing';
import { BenchSession } from './session';
import { linesOf } from './snapping';
import { chooseThread } from './threads';

const area = demoBlank.areas[0]!;
const geometry = demoBlank.geometries['g-small']!;
const layersOf = (doc: ProductDocument) => doc.areas['main.front']?.layers ?? {};

type Change = (doc: ProductDocument, id: string) => ProductDocument;
const point = fc.record({ x: fc.integer({ min: -400, max: 700 }), y: fc.integer({ min: -400, max: 700 }) });

/** What a hand does to some layer: gestures with the mouse, and the panel's commands. */
const change: fc.Arbitrary<Change> = fc.oneof(
  fc.constant<Change>((doc, id) => addText(doc, area, geometry, 'g-small', `t-${id}`, '#112233')),
  fc.integer({ min: 0, max: ORNAMENTS.length - 1 }).map(
    (n): Change =>
      (doc, id) =>
        addOrnament(doc, area, geometry, 'g-small', `o-${id}`, ORNAMENTS[n]!, '#445566'),
  ),
  fc
    .tuple(point, point, fc.constantFrom('move', 'size', 'turn'), fc.nat(), fc.boolean())
    .map(([from, to, kind, n, free]): Change => (doc) => {
      const [id, layer] = Object.entries(layersOf(doc))[n % Math.max(1, Object.keys(layersOf(doc)).length)] ?? [];
      if (!id || !layer) return doc;
      const held = { placement: layer.placement, aspect: 0.5 };
      const gesture =
        kind === 'move'
          ? moving(held, from, linesOf(geometry), 3)
          : kind === 'size'
            ? sizing(held, 'se')
            : turning(held, from);
      return placeLayer(doc, 'main.front', id, 'g-small', gesture.move(to, free));
    }),
  fc
    .tuple(
      fc.nat(),
      fc.constantFrom('hide', 'lock', 'name', 'tint', 'focus', 'remove', 'copy', 'top', 'other', 'size2', 'thread'),
    )
    .map(([n, what]): Change => (doc, made) => {
      const ids = Object.keys(layersOf(doc));
      const id = ids[n % Math.max(1, ids.length)];
      if (!id) return doc;
      const set = (part: object) => changeLayer(doc, 'main.front', id, (layer) => ({ ...layer, ...part }));
      switch (what) {
        case 'hide':
          return set({ hidden: n % 2 === 0 });
        case 'lock':
          return set({ locked: n % 2 === 0 });
        case 'name':
          return set({ name: `Layer ${n}` });
        case 'tint':
          return set({ versions: { estuary: { tint: '#ffffff' } } });
        case 'focus':
          return set({ focus: { x: (n % 11) / 10, y: 0.5 } });
        case 'remove':
          return removeLayer(doc, 'main.front', id);
        case 'copy':
          return duplicateLayers(doc, 'main.front', [id], (old) => `${made}-${old}`.slice(0, 40));
        case 'top':
          return reorder(doc, 'main.front', [id]);
        case 'size2':
          return placeLayer(doc, 'main.front', id, 'g-large', layersOf(doc)[id]!.placement);
        case 'thread':
          return chooseThread(doc, 'main.front', { pin: `t0${1 + (n % 9)}` });
        default:
          return copyArea(
            doc,
            { key: 'main.front', layers: layersOf(doc), geometry },
            { key: 'main.back', geometryId: 'g-small', geometry },
            n % 2 === 0,
            (old) => `${made}-${old}`.slice(0, 40),
          );
      }
    }),
);

describe('undo', () => {
  it('of any sequence of gestures and commands restores the document, and redo what was made of it', () => {
    fc.assert(
      fc.property(fc.array(change, { minLength: 1, maxLength: 25 }), (changes) => {
        const start = newDocument('b1', 'GBP', 'Tee');
        let clock = 0;
        let ids = 0;
        const transport = { send: () => new Promise<never>(() => {}), load: () => new Promise<never>(() => {}) };
        const means = {
          now: () => (clock += 10_000),
          later: () => () => {},
          newId: () => `s${(ids += 1)}`,
          chance: () => 0,
          keep: () => {},
        };
        const session = new BenchSession(transport, { revision: 1, document: start }, means);
        changes.forEach((one, i) => session.edit(`step ${i}`, (doc) => one(doc, String(i))));
        const end = session.getState().document;
        expect(checkDocument(end)).toEqual([]);
        while (session.undo());
        expect(session.getState().document).toEqual(start);
        while (session.redo());
        expect(session.getState().document).toEqual(end);
      }),
      { seed: 11, numRuns: 150 },
    );
  });
});
