import { describe, expect, it } from 'vitest';
import { canonicalJson, contentHash } from '../canonical/canonical';
import { inOrder, orderAtEnd, orderBetween } from '../order-key';
import { checkDocument } from './check';
import { layerTitle, newDocument, type Layer } from './document';
import { applyPatch, checkPatch, diff, KEPT } from './patch';

// Examples of RFC 6902, appendix A: name, document, patch, result (null: an error).
const RFC6902: [string, unknown, unknown[], unknown][] = [
  [
    'A.1 adding an object member',
    { foo: 'bar' },
    [{ op: 'add', path: '/baz', value: 'qux' }],
    { baz: 'qux', foo: 'bar' },
  ],
  [
    'A.2 adding an array element',
    { foo: ['bar', 'baz'] },
    [{ op: 'add', path: '/foo/1', value: 'qux' }],
    { foo: ['bar', 'qux', 'baz'] },
  ],
  ['A.3 removing an object member', { baz: 'qux', foo: 'bar' }, [{ op: 'remove', path: '/baz' }], { foo: 'bar' }],
  [
    'A.4 removing an array element',
    { foo: ['bar', 'qux', 'baz'] },
    [{ op: 'remove', path: '/foo/1' }],
    { foo: ['bar', 'baz'] },
  ],
  [
    'A.5 replacing a value',
    { baz: 'qux', foo: 'bar' },
    [{ op: 'replace', path: '/baz', value: 'boo' }],
    { baz: 'boo', foo: 'bar' },
  ],
  [
    'A.6 moving a value',
    { foo: { bar: 'baz', waldo: 'fred' }, qux: { corge: 'grault' } },
    [{ op: 'move', from: '/foo/waldo', path: '/qux/thud' }],
    { foo: { bar: 'baz' }, qux: { corge: 'grault', thud: 'fred' } },
  ],
  [
    'A.7 moving an array element',
    { foo: ['all', 'grass', 'cows', 'eat'] },
    [{ op: 'move', from: '/foo/1', path: '/foo/3' }],
    { foo: ['all', 'cows', 'eat', 'grass'] },
  ],
  [
    'A.8 testing a value: success',
    { baz: 'qux', foo: ['a', 2, 'c'] },
    [
      { op: 'test', path: '/baz', value: 'qux' },
      { op: 'test', path: '/foo/1', value: 2 },
    ],
    { baz: 'qux', foo: ['a', 2, 'c'] },
  ],
  ['A.9 testing a value: error', { baz: 'qux' }, [{ op: 'test', path: '/baz', value: 'bar' }], null],
  [
    'A.10 adding a nested member object',
    { foo: 'bar' },
    [{ op: 'add', path: '/child', value: { grandchild: {} } }],
    { foo: 'bar', child: { grandchild: {} } },
  ],
  [
    'A.11 ignoring unrecognized elements',
    { foo: 'bar' },
    [{ op: 'add', path: '/baz', value: 'qux', xyz: 123 }],
    { foo: 'bar', baz: 'qux' },
  ],
  ['A.12 adding to a nonexistent target', { foo: 'bar' }, [{ op: 'add', path: '/baz/bat', value: 'qux' }], null],
  ['A.14 escape ordering', { '/': 9, '~1': 10 }, [{ op: 'test', path: '/~01', value: 10 }], { '/': 9, '~1': 10 }],
  ['A.15 comparing strings and numbers', { '/': 9, '~1': 10 }, [{ op: 'test', path: '/~01', value: '10' }], null],
  [
    'A.16 adding an array value',
    { foo: ['bar'] },
    [{ op: 'add', path: '/foo/-', value: ['abc', 'def'] }],
    { foo: ['bar', ['abc', 'def']] },
  ],
];

describe('patches (RFC 6902, appendix A)', () => {
  it.each(RFC6902)('%s', (_name, document, patch, result) => {
    const run = () => applyPatch(document, checkPatch(patch), KEPT);
    if (result === null) expect(run).toThrow();
    else expect(run()).toEqual(result);
  });

  it('leaves the given document alone, and applies all or nothing', () => {
    const document = { a: 1 };
    expect(() =>
      applyPatch(document, [
        { op: 'replace', path: '/a', value: 2 },
        { op: 'remove', path: '/none' },
      ]),
    ).toThrow(/Operation 2/);
    expect(document).toEqual({ a: 1 });
  });

  it.each([
    ['not an array', {}],
    ['an unknown operation', [{ op: 'frob', path: '/a' }]],
    ['no pointer', [{ op: 'remove', path: 'a' }]],
    ['no value', [{ op: 'add', path: '/a' }]],
    ['a way into the prototype', [{ op: 'add', path: '/__proto__/x', value: 1 }]],
  ])('refuses %s', (_name, body) => {
    expect(() => checkPatch(body)).toThrow(/not a JSON patch/);
  });
});

describe('document', () => {
  it('accepts a new one and names every fault of a broken one', () => {
    const good = newDocument('b1', 'GBP', 'Tide');
    expect(checkDocument(good)).toEqual([]);
    const bad = {
      ...good,
      format: 2,
      extra: 1,
      variants: { 'not a key': {} },
      price: { ...good.price, base: { ...good.price.base, aim: { kind: 'margin', ppm: 1_000_000 } } },
    };
    expect(
      checkDocument(bad)
        .map((fault) => fault.path)
        .sort(),
    ).toEqual(['/extra', '/format', '/price/base/aim/ppm', '/variants/not a key']);
    expect(checkDocument(null)).toHaveLength(1);
    expect(
      checkDocument({ ...good, words: { ...good.words, base: { ...good.words.base, title: '\ud800' } } })[0]!.says,
    ).toMatch(/lone surrogate/);
  });

  it('refuses numbers that are none', () => {
    const good = newDocument('b1', 'GBP', 'Tide');
    const layer = {
      kind: 'artwork',
      order: 'a0',
      name: '',
      artworkId: 'x',
      geometryId: 'g',
      fit: 'keep',
      overrides: {},
      hidden: false,
      locked: false,
      placement: { xMm: Number.NaN, yMm: 1e9, widthMm: 0, rotationDeg: 0, flipX: false, flipY: 1 },
    };
    const faults = checkDocument({ ...good, areas: { 'main.front': { layers: { l: layer } } } });
    expect(faults.map((f) => f.path.split('/').at(-1))).toEqual(['xMm', 'yMm', 'widthMm', 'flipY']);
  });

  it('turns one into the other by its difference', () => {
    const a = newDocument('b1', 'GBP', 'Tide');
    const b = {
      ...a,
      variants: { 'color=estuary;size=m': {} },
      words: { ...a.words, base: { ...a.words.base, title: 'Ebb' } },
    };
    expect(applyPatch(a, diff(a, b))).toEqual(b);
    expect(applyPatch(b, diff(b, a))).toEqual(a);
  });
});

describe('order keys', () => {
  it('put entries between others without touching them', () => {
    const one = orderAtEnd({});
    const two = orderAtEnd({ x: { order: one } });
    const between = orderBetween(one, two);
    expect(inOrder({ b: { order: two }, a: { order: one }, m: { order: between } }).map(([id]) => id)).toEqual([
      'a',
      'm',
      'b',
    ]);
    expect(inOrder({ z: { order: one }, y: { order: one } }).map(([id]) => id)).toEqual(['y', 'z']);
  });
});

describe('canonical JSON (RFC 8785)', () => {
  it('writes the example of section 3.2.2 and 3.2.3', () => {
    const value = {
      numbers: [333333333.33333329, 1e30, 4.5, 2e-3, 0.000000000000000000000000001],
      string: '\u20ac$\u000F\u000aA\'\u0042\u0022\u005c\\"\/',
      literals: [null, true, false],
    };
    expect(canonicalJson(value)).toBe(
      '{"literals":[null,true,false],"numbers":[333333333.3333333,1e+30,4.5,0.002,1e-27],"string":"€$\\u000f\\nA\'B\\"\\\\\\\\\\"/"}',
    );
  });

  it('sorts keys by UTF-16 code units (section 3.2.3)', () => {
    const value = {
      '\u20ac': 'Euro Sign',
      '\r': 'Carriage Return',
      '\ufb33': 'Hebrew Letter Dalet With Dagesh',
      '1': 'One',
      '\ud83d\ude00': 'Emoji: Grinning Face',
      '\u0080': 'Control',
      '\u00f6': 'Latin Small Letter O With Diaeresis',
    };
    expect(Object.values(JSON.parse(canonicalJson(value)))).toHaveLength(7);
    expect([...canonicalJson(value).matchAll(/:"([^"]+)"/g)].map((m) => m[1])).toEqual([
      'Carriage Return',
      'One',
      'Control',
      'Latin Small Letter O With Diaeresis',
      'Euro Sign',
      'Emoji: Grinning Face',
      'Hebrew Letter Dalet With Dagesh',
    ]);
  });

  it('hashes by content', () => {
    expect(contentHash({ a: 1, b: 2 })).toBe(contentHash({ b: 2.0, a: 1 }));
    expect(contentHash({ a: 1 })).not.toBe(contentHash({ a: '1' }));
  });
});

describe('a layer', () => {
  const text = (name: string, said: string) => layerTitle({ kind: 'text', name, lettering: { text: said } } as Layer);

  it('is called by its name, and a text that nobody named by what it says', () => {
    expect(text('Text', 'Low  tide\nat six')).toBe('Low tide at six');
    expect(text('Motto', 'Low tide')).toBe('Motto');
    expect(text('Text', '  ')).toBe('Text');
    const long = text('Text', 'a'.repeat(60));
    expect([long.length, long.endsWith('…')]).toEqual([40, true]);
  });
});
