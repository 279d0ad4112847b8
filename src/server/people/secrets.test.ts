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

  it('opens what others have sealed: AES-256-GCM as the specification’s test vectors have it', () => {
    // Test case 14 of McGrew and Viega, The Galois/Counter Mode of Operation, appendix B (the vectors that NIST SP 800-38D goes by), from memory.
    const sealed = Buffer.from(
      ['00'.repeat(12), 'd0d1c8a799996bf0265b98b5d48ab919', 'cea7403d4d606b6e074ec5d3baf39d18'].join(''),
      'hex',
    );
    expect(open(Buffer.alloc(32), sealed, '')).toBe('\0'.repeat(16));
    sealed[20]! ^= 1;
    expect(() => open(Buffer.alloc(32), sealed, '')).toThrow();
  });

  it('makes tokens that do not repeat and stores only their hash', () => {
    expect(newToken()).not.toBe(newToken());
    // SHA-256 of "abc" (FIPS 180-4 example)
    expect(tokenHash('abc')).toBe('ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad');
  });
});
