import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { plainCell, safeCell, safeLine } from './safe';

describe('cells for a spreadsheet', () => {
  it.each(['=HYPERLINK("x")', '+1+1', '-1+1', '@SUM(1)', '\tx', '\rx', '=cmd|x', "'=1", '＝1+1', '\n=1'])(
    '%j is no formula',
    (text) => {
      expect(safeCell(text)).toBe(`'${text}`);
    },
  );

  it.each(['-1.20', '+5', '12,50', '-40%', '', 'abc', "it's", "'quoted'"])('%j stays as it is', (text) => {
    expect(safeCell(text)).toBe(text);
  });

  it('says what it said before, whatever that was', () => {
    const text = fc.oneof(fc.string(), fc.stringMatching(/^'{0,3}[=+@-].{0,6}$/));
    fc.assert(
      fc.property(text, (one) => {
        expect(plainCell(safeCell(one))).toBe(one);
      }),
    );
  });

  it('is a line of RFC 4180', () => {
    expect(safeLine(['=1,2', 'a"b'])).toBe(`"'=1,2","a""b"\r\n`);
  });
});
