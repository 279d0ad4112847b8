import crypto from 'node:crypto';
import fc from 'fast-check';
import { Webhook } from 'standardwebhooks';
import { describe, expect, it } from 'vitest';
import { mac, signatureHolds } from './signature';

const bytes = (hex: string, times = 1) => Buffer.from(hex.repeat(times), 'hex');

describe('HMAC-SHA-256', () => {
  // RFC 4231, section 4: cases 1 to 4, 6 and 7.
  it.each([
    [bytes('0b', 20), Buffer.from('Hi There'), 'b0344c61d8db38535ca8afceaf0bf12b881dc200c9833da726e9376c2e32cff7'],
    [
      Buffer.from('Jefe'),
      Buffer.from('what do ya want for nothing?'),
      '5bdcc146bf60754e6a042426089575c75a003f089d2739839dec58b964ec3843',
    ],
    [bytes('aa', 20), bytes('dd', 50), '773ea91e36800e46854db8ebd09181a72959098b3ef8c122d9635514ced565fe'],
    [
      bytes('0102030405060708090a0b0c0d0e0f10111213141516171819'),
      bytes('cd', 50),
      '82558a389a443c0ea4cc819899f2083a85f0faa3e578f8077a2e3ff46729665b',
    ],
    [
      bytes('aa', 131),
      Buffer.from('Test Using Larger Than Block-Size Key - Hash Key First'),
      '60e431591ee0b67f0d8a26aacbf5b77f8e0bc6213728c5140546040f0ee37f54',
    ],
    [
      bytes('aa', 131),
      Buffer.from(
        'This is a test using a larger than block-size key and a larger than block-size data. The key needs to be hashed before being used by the HMAC algorithm.',
      ),
      '9b09ffa71b942fcb27635fbcd5b0e944bfdc63644f0713938a7f51535c3a35e2',
    ],
  ])('is that of RFC 4231', (key, message, digest) => expect(mac(key, message).toString('hex')).toBe(digest));
});

describe('the signature of a message', () => {
  const secret = `whsec_${crypto.createHash('sha256').update('typica').digest('base64')}`;
  /** As the specification's own package signs. */
  const signed = (id: string, seconds: number, body: string) =>
    new Webhook(secret).sign(id, new Date(seconds * 1000), body);

  it('holds where the specification’s own package made it, whatever the message, and for that message alone', () => {
    const words = fc.string({ unit: 'grapheme', maxLength: 80 });
    fc.assert(
      fc.property(words, fc.integer({ min: 1, max: 4_000_000_000 }), words, words, (name, seconds, body, other) => {
        const id = `msg_${name}`;
        const signature = signed(id, seconds, body);
        expect(signatureHolds(secret, id, String(seconds), body, signature)).toBe(true);
        expect(signatureHolds(secret, id, String(seconds), other, signature)).toBe(other === body);
        expect(signatureHolds(secret, id, String(seconds + 1), body, signature)).toBe(false);
        expect(signatureHolds(secret, `${id}x`, String(seconds), body, signature)).toBe(false);
      }),
      { numRuns: 200, seed: 4231 },
    );
  });

  it('is one of several where a secret is being changed, and of the known version alone', () => {
    const right = signed('msg_1', 1_700_000_000, '{}');
    const holds = (signatures: string) => signatureHolds(secret, 'msg_1', '1700000000', '{}', signatures);
    expect(holds(`v1,AAAA ${right}`)).toBe(true);
    expect(holds(right.replace('v1,', 'v1a,'))).toBe(false);
    expect(holds(right.slice(3))).toBe(false);
    expect(['', 'v1,', 'v1', `v1,${'A'.repeat(10_000)}`].some(holds)).toBe(false);
  });
});
