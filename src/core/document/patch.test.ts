import fc from 'fast-check';
import { applyPatch as applyByLibrary } from 'rfc6902';
import { describe, expect, it } from 'vitest';
import { sameJson } from '../json/bounds';
import { applyPatch, checkPatch, diff, KEPT, MAX_OPERATIONS, type Operation } from './patch';
import { parsePointer } from './pointer';

const inherited = Object.getOwnPropertyNames(Object.prototype);

describe('pointers', () => {
  it('are read as in RFC 6901, section 5', () => {
    expect(parsePointer('')).toEqual([]);
    expect(parsePointer('/foo/0')).toEqual(['foo', '0']);
    expect(parsePointer('/')).toEqual(['']);
    expect(parsePointer('/a~1b')).toEqual(['a/b']);
    expect(parsePointer('/m~0n')).toEqual(['m~n']);
    expect(parsePointer('/~01')).toEqual(['~1']);
  });

  it('are refused where they are none, however many slashes there are', () => {
    for (const bad of [
      'a',
      '/a~',
      '/~2',
      `${'/'.repeat(900)}~`,
      `/${'a'.repeat(1000)}`,
      '/__proto__/x',
      '/a'.repeat(33),
      7,
    ])
      expect(parsePointer(bad)).toBeNull();
  });
});

describe('a patch', () => {
  it('never reaches what objects inherit', () => {
    for (const name of inherited) {
      for (const op of ['add', 'replace'] as const)
        expect(() => applyPatch({}, [{ op, path: `/${name}/mark`, value: 'm' }])).toThrow(/does not fit/);
      expect(() => applyPatch({}, [{ op: 'remove', path: `/${name}` }])).toThrow(/does not fit/);
      expect(() => applyPatch({}, [{ op: 'copy', from: `/${name}`, path: '/x' }])).toThrow(/does not fit/);
      expect(() => applyPatch({}, [{ op: 'move', from: `/${name}`, path: '/x' }])).toThrow(/does not fit/);
      expect(() => applyPatch({}, [{ op: 'test', path: `/${name}`, value: {} }])).toThrow(/does not fit/);
    }
    expect((Object.prototype.valueOf as unknown as Record<string, unknown>).mark).toBeUndefined();
  });

  it('gives what the library gives for documents and patches between them (source: package rfc6902)', () => {
    const json = fc
      .jsonValue({ maxDepth: 4 })
      .map((value) => JSON.parse(JSON.stringify(value).replaceAll('__proto__', 'p')));
    fc.assert(
      fc.property(json, json, (a, b) => {
        const patch = diff({ it: a }, { it: b });
        const other = structuredClone({ it: a });
        applyByLibrary(other, structuredClone(patch));
        expect(applyPatch({ it: a }, patch, KEPT)).toEqual(other);
      }),
    );
  });

  it('passes the examples of RFC 6902, appendix A', () => {
    const cases: [unknown, Operation[], unknown][] = [
      [{ foo: 'bar' }, [{ op: 'add', path: '/baz', value: 'qux' }], { baz: 'qux', foo: 'bar' }],
      [{ foo: ['bar', 'baz'] }, [{ op: 'add', path: '/foo/1', value: 'qux' }], { foo: ['bar', 'qux', 'baz'] }],
      [{ baz: 'qux', foo: 'bar' }, [{ op: 'remove', path: '/baz' }], { foo: 'bar' }],
      [{ foo: ['bar', 'qux', 'baz'] }, [{ op: 'remove', path: '/foo/1' }], { foo: ['bar', 'baz'] }],
      [{ baz: 'qux' }, [{ op: 'replace', path: '/baz', value: 'boo' }], { baz: 'boo' }],
      [
        { foo: { bar: 'baz' }, qux: {} },
        [{ op: 'move', from: '/foo/bar', path: '/qux/thud' }],
        { foo: {}, qux: { thud: 'baz' } },
      ],
      [
        { foo: ['all', 'grass', 'cows', 'eat'] },
        [{ op: 'move', from: '/foo/1', path: '/foo/3' }],
        { foo: ['all', 'cows', 'eat', 'grass'] },
      ],
      [{ foo: ['bar'] }, [{ op: 'add', path: '/foo/-', value: ['abc', 'def'] }], { foo: ['bar', ['abc', 'def']] }],
      [{ '/': 9, '~1': 10 }, [{ op: 'test', path: '/~01', value: 10 }], { '/': 9, '~1': 10 }],
    ];
    for (const [from, patch, to] of cases) expect(applyPatch(from, patch, KEPT)).toEqual(to);
    expect(() => applyPatch({ baz: 'qux' }, [{ op: 'test', path: '/baz', value: 'bar' }])).toThrow(/another value/);
    expect(() => applyPatch({ foo: 'bar' }, [{ op: 'add', path: '/baz/bat', value: 'qux' }])).toThrow(/does not fit/);
    expect(() => applyPatch({ '/': 9, '~1': 10 }, [{ op: 'test', path: '/~01', value: '10' }])).toThrow();
  });

  it('cannot grow a document without end by copying or moving', () => {
    const document = { words: { text: 'a'.repeat(2000) } };
    const bomb: Operation[] = Array.from({ length: 24 }, (_, i) => ({ op: 'copy', from: '', path: `/words/k${i}` }));
    expect(() => applyPatch(document, bomb)).toThrow(/copy more than|nests deeper/);
    const flat: Operation[] = Array.from({ length: MAX_OPERATIONS }, (_, i) => ({
      op: 'copy',
      from: '/words',
      path: `/k${i}`,
    }));
    expect(() => applyPatch(document, flat)).toThrow(/copy more than/);
    const large = { a: 'x'.repeat(1_000_000) };
    const back: Operation[] = Array.from({ length: 100 }, (_, i) =>
      i % 2 ? { op: 'move', from: '/b', path: '/a' } : { op: 'move', from: '/a', path: '/b' },
    );
    expect(() => applyPatch(large, back)).toThrow(/copy more than/);
    const written: Operation[] = Array.from({ length: 10 }, (_, i) => ({ op: 'add', path: `/k${i}`, value: large.a }));
    expect(() => applyPatch({}, written)).toThrow(/write more than/);
    // A day's edits of our own, merged, may be as much.
    expect(Object.keys(applyPatch({}, written, KEPT))).toHaveLength(10);
    expect(() => applyPatch({ a: { b: {} } }, [{ op: 'move', from: '/a', path: '/a/b/c' }])).toThrow(/into itself/);
  });

  it('treats one object that stands in two places as two, as in JSON text', () => {
    const aim = { kind: 'retail', amountMinor: 900 };
    const first = applyPatch<Record<string, unknown>>({}, [{ op: 'add', path: '/v', value: { a: aim, b: aim } }]);
    const second = applyPatch(first, [
      { op: 'remove', path: '/v/a/amountMinor' },
      { op: 'remove', path: '/v/b/amountMinor' },
    ]);
    expect(second).toEqual({ v: { a: { kind: 'retail' }, b: { kind: 'retail' } } });
    expect(applyPatch({ a: aim, b: aim }, [{ op: 'remove', path: '/a/kind' }])).toEqual({
      a: { amountMinor: 900 },
      b: aim,
    });
  });

  it('that somebody sends never names an entry of a list by its position', () => {
    const document = { tags: ['a', 'b'] };
    for (const one of [
      { op: 'remove', path: '/tags/0' },
      { op: 'add', path: '/tags/-', value: 'c' },
      { op: 'replace', path: '/tags/1', value: 'c' },
      { op: 'replace', path: '/tags/length', value: 0 },
      { op: 'copy', from: '/tags/0', path: '/first' },
      { op: 'move', from: '/tags/0', path: '/first' },
      { op: 'test', path: '/tags/0', value: 'a' },
    ] as Operation[])
      expect(() => applyPatch(document, [one])).toThrow(/position in a list/);
    expect(applyPatch(document, [{ op: 'replace', path: '/tags', value: ['b'] }])).toEqual({ tags: ['b'] });
  });

  it('nests no deeper than the limit, by values and by copies', () => {
    const deep = JSON.parse(`${'{"a":'.repeat(40)}1${'}'.repeat(40)}`);
    expect(() => applyPatch({}, [{ op: 'add', path: '/x', value: deep }])).toThrow(/deeper/);
  });

  it('leaves the document alone, and the operations too', () => {
    const document = { a: {} };
    const value = { n: 1 };
    const after = applyPatch<Record<string, unknown>>(document, [
      { op: 'add', path: '/b', value },
      { op: 'replace', path: '/b/n', value: 2 },
    ]);
    expect(after).toEqual({ a: {}, b: { n: 2 } });
    expect([document, value]).toEqual([{ a: {} }, { n: 1 }]);
  });

  it('is refused with members that only look like operations', () => {
    const odd = { toString: 1, valueOf: 1 };
    for (const body of [
      [{ op: odd, path: '/a' }],
      [{ op: 'add', path: odd, value: 1 }],
      [null],
      [[]],
      {},
      [{ op: 'toString', path: '' }],
    ])
      expect(() => checkPatch(body)).toThrow(/not a JSON patch/);
  });
});

describe('JSON values', () => {
  it('are the same whatever order their members have, and never by what they inherit', () => {
    expect(sameJson({ a: 1, b: [1, { c: null }] }, { b: [1, { c: null }], a: 1 })).toBe(true);
    expect(sameJson([1], { 0: 1 })).toBe(false);
    expect(sameJson({ toString: undefined }, { valueOf: undefined })).toBe(false);
  });
});
