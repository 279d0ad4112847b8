import { describe, expect, it } from 'vitest';
import { pkceChallenge } from './connect';

describe('PKCE', () => {
  it('makes the challenge of RFC 7636, appendix B', () => {
    expect(pkceChallenge('dBjftJeZ4CVP-mB92K27uhbUJU1p1r_wW1gFWFOEjXk')).toBe(
      'E9Melhoa2OwvFrEMTJguCHaoeK1t8URWbuGJSstw-cM',
    );
  });
});
