import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { jsonFault, jsonSize, unprintableText } from './bounds';

const bounds = { maxDepth: 5, maxValues: 10 };

describe('JSON text', () => {
  it.each([
    ['[[[[[1]]]]]', null],
    ['[[[[[[1]]]]]]', 'too-deep'],
    ['{"a":{"a":{"a":{"a":{"a":{}}}}}}', 'too-deep'],
    ['[1,2,3,4,5,6,7,8,9]', null],
    ['[1,2,3,4,5,6,7,8,9,10,11]', 'too-many'],
    // What stands in texts does not count.
    ['"[[[[[[[[,,,,,,,,,,,,"', null],
    ['"\\"[[[[[[[["', null],
    ['"\\\\"', null],
  ] as const)('%s is %s', (text, fault) => {
    expect(jsonFault(text, bounds)).toBe(fault);
  });

  it('of any value within bounds has no fault', () => {
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 3 }), (value) => {
        expect(jsonFault(JSON.stringify(value), { maxDepth: 5, maxValues: 10_000 })).toBeNull();
      }),
    );
  });
});

describe('JSON values', () => {
  it('are measured without running out of stack, as deep and as wide as they are', () => {
    let deep: unknown = 1;
    for (let i = 0; i < 200_000; i += 1) deep = [deep];
    expect(jsonSize(deep).depth).toBe(200_001);
    expect(jsonSize({ a: 'x'.repeat(100) }).size).toBeGreaterThan(100);
    expect(jsonSize(Array(1000).fill('x'.repeat(100)), 500).size).toBeLessThan(100_000);
  });

  it('are searched for what cannot be printed, keys too', () => {
    expect(unprintableText({ a: ['fine\n\t', { b: 'é' }] })).toBeNull();
    expect(unprintableText({ a: ['\u0000'] })).toBe('\u0000');
    expect(unprintableText({ '\ud800': 1 })).toBe('\ud800');
  });
});
