import crypto from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { newToken, open, seal, tokenHash } from './secrets';

describe('secrets', () => {
  const key = crypto.randomBytes(32);

  it('opens what it sealed, and nothing else', () => {
    const sealed = seal(key, 'token', 'store-1');
    expect(sealed.includes('token')).toBe(false);
    expect(open(key, sealed, 'store-1')).toBe('token');
    expect(() => open(key, sealed, 'store-2')).toThrow();
    expect(() => open(crypto.randomBytes(32), sealed, 'store-1')).toThrow();
    sealed[30]! ^= 1;
    expect(() => open(key, sealed, 'store-1')).toThrow();
  });

  it('makes tokens that do not repeat and stores only their hash', () => {
    expect(newToken()).not.toBe(newToken());
    // SHA-256 of "abc" (FIPS 180-4 example)
    expect(tokenHash('abc')).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad');
  });
});
