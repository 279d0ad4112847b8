import { describe, expect, it } from 'vitest';
import { sampleLayer } from '@/core/document/sample';
import { demoBlank } from '@/core/catalog/sample';
import { newDocument, type ProductDocument } from '@/core/document/document';
import { checkDocument } from '@/core/document/check';
import { setOffered } from '@/core/document/offered';
import {
  addPictures,
  chosenSet,
  describePicture,
  movePicture,
  picturesNow,
  removePictures,
  resetPictures,
  setMainPicture,
  subjectOf,
  tiePicture,
} from './picturing';

let n = 0;
const shot = (id: string, angle: string) => ({
  id,
  document: { name: id, angle, areas: { 'main.front': { variant: { size: 'm' } } } },
});
const choice = { blank: demoBlank, shots: [shot('h1', 'front'), shot('h2', 'close-up')], newId: () => `n${(n += 1)}` };
const doc: ProductDocument = {
  ...newDocument('b1', 'GBP', 'Tee'),
  areas: { 'main.front': { layers: { l: sampleLayer() } } },
  variants: Object.fromEntries(demoBlank.variants.map((v) => [v.key, {}])),
};
const subjects = (d: ProductDocument) => picturesNow(d, choice).map(([, picture]) => subjectOf(picture));
const START = ['h1/estuary', 'h1/sandbar', 'h2/estuary'];

describe('choosing pictures', () => {
  it('begins with automatic set, and keeps it when one is added', () => {
    expect(subjects(doc)).toEqual(START);
    const more = addPictures(doc, choice, [
      { shotId: 'h2', color: 'sandbar' },
      { shotId: 'h1', color: 'estuary' },
      { shotId: null, imageId: 'p1', color: null },
    ]);
    expect(subjects(more)).toEqual([...START, 'h2/sandbar', 'own/p1']);
    expect(checkDocument(more)).toEqual([]);
  });

  it('moves to any place, takes out, and goes back', () => {
    expect(subjects(movePicture(doc, choice, 'h2/estuary', 0))).toEqual(['h2/estuary', 'h1/estuary', 'h1/sandbar']);
    expect(subjects(movePicture(doc, choice, 'h1/estuary', 1))).toEqual(['h1/sandbar', 'h1/estuary', 'h2/estuary']);
    expect(subjects(movePicture(doc, choice, 'h1/estuary', 99))).toEqual(['h1/sandbar', 'h2/estuary', 'h1/estuary']);
    const less = removePictures(doc, choice, ['h1/estuary']);
    expect(subjects(less)).toEqual(['h1/sandbar', 'h2/estuary']);
    expect(subjects(resetPictures(less, {}))).toEqual(START);
    expect(movePicture(doc, choice, 'nobody', 0)).toBe(doc);
  });

  it('has one main picture for a color, and words of one’s own until they are emptied', () => {
    let d = setMainPicture(doc, choice, 'h1/estuary', true);
    d = setMainPicture(d, choice, 'h2/estuary', true);
    const mains = picturesNow(d, choice).flatMap(([, picture]) => (picture.main ? [subjectOf(picture)] : []));
    expect(mains).toEqual(['h2/estuary']);
    d = describePicture(d, choice, 'h2/estuary', 'Seen from near');
    expect(picturesNow(d, choice)[2]![1].alt).toBe('Seen from near');
    d = describePicture(d, choice, 'h2/estuary', ' ');
    expect(picturesNow(d, choice)[2]![1].alt).toBeUndefined();
  });

  it('keeps a set of one store beside the one for all, begun from it and given back', () => {
    const there = { ...choice, storeId: 's1' };
    const all = removePictures(doc, choice, ['h2/estuary']);
    const own = movePicture(all, there, 'h1/sandbar', 0);
    const inStore = (d: ProductDocument) => picturesNow(d, there).map(([, picture]) => subjectOf(picture));
    expect([inStore(own), subjects(own)]).toEqual([
      ['h1/sandbar', 'h1/estuary'],
      ['h1/estuary', 'h1/sandbar'],
    ]);
    expect(checkDocument(own)).toEqual([]);
    expect(chosenSet(own, { storeId: 's2' })).toEqual({});
    expect(resetPictures(own, there)).toEqual(all);
    expect(removePictures(own, there, ['h1/sandbar', 'h1/estuary']).pictures.stores).toEqual({});
    // Where nobody chose any, a color that the store leaves out is not shown there.
    const light = demoBlank.variants.filter(({ values }) => values.color === 'sandbar').map(({ key }) => key);
    expect(inStore(setOffered(doc, 's1', light, false))).toEqual(['h1/estuary', 'h2/estuary']);
  });

  it('ties a picture of one’s own to a color', () => {
    const own = addPictures(doc, choice, [{ shotId: null, imageId: 'p1', color: null }]);
    const tied = tiePicture(own, choice, 'own/p1', 'sandbar');
    expect(picturesNow(tied, choice).at(-1)![1].color).toBe('sandbar');
  });
});
