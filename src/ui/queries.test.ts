import { describe, expect, it } from 'vitest';
import { isStaleBy, isStaleByAny } from './queries';

const of = (queryKey: readonly unknown[], topics?: readonly string[]) => ({
  queryKey,
  meta: topics ? { topics } : undefined,
});

describe('what an event makes stale', () => {
  it('is what its topic is of, and of one thing only that thing', () => {
    const history = of(['product', 'p1', 'revisions']);
    expect(isStaleBy('product', { productId: 'p1' }, history)).toBe(true);
    expect(isStaleBy('product', { productId: 'p2' }, history)).toBe(false);
    expect(isStaleBy('listing', { productId: 'p1' }, history)).toBe(false);
    expect(isStaleBy('job', { jobId: 'j1', productId: 'p9' }, of(['job', 'j1']))).toBe(true);
    // A list of all is stale by any of them, and one thing is stale by an event that names none.
    expect(isStaleBy('job', { jobId: 'j1' }, of(['job']))).toBe(true);
    expect(isStaleBy('artwork', {}, of(['artwork', 'a1', 'uses']))).toBe(true);
  });

  it('is nothing of what is gone, until it is back', () => {
    const uses = of(['artwork', 'a1', 'uses']);
    expect(isStaleBy('artwork', { artworkId: 'a1', state: 'deleted' }, uses)).toBe(false);
    expect(isStaleBy('artwork', { artworkId: 'a1', state: 'ready' }, uses)).toBe(true);
    expect(isStaleBy('artwork', { artworkId: 'a1', state: 'deleted' }, of(['artwork']))).toBe(true);
  });

  it('is nothing of what was changed and then deleted in one bunch', () => {
    const uses = of(['artwork', 'a1', 'uses'], ['product']);
    const changed = ['artwork', { artworkId: 'a1', state: 'ready' }] as const;
    const gone = ['artwork', { artworkId: 'a1', state: 'deleted' }] as const;
    expect(isStaleByAny([changed], uses)).toBe(true);
    expect(isStaleByAny([changed, gone, ['product', { productId: 'p1' }]], uses)).toBe(false);
    expect(isStaleByAny([gone, changed], uses)).toBe(true);
    expect(isStaleByAny([gone, ['artwork', { artworkId: 'a2', state: 'ready' }]], uses)).toBe(false);
    expect(isStaleByAny([changed, gone], of(['artwork']))).toBe(true);
  });

  it('is what other topics matter to, and everything after a gap', () => {
    expect(isStaleBy('store', { storeId: 's1' }, of(['listing', 'p1'], ['product', 'store']))).toBe(true);
    expect(isStaleBy('picture', { productId: 'p1' }, of(['listing', 'p1'], ['product', 'store']))).toBe(false);
    expect(isStaleBy('reset', {}, of(['named-set', 'colors']))).toBe(true);
  });
});
