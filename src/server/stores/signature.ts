import crypto from 'node:crypto';

/** HMAC-SHA-256 (RFC 2104). */
export const mac = (key: Uint8Array, message: string | Uint8Array): Buffer =>
  crypto.createHmac('sha256', key).update(message).digest();

/**
 * Whether one of the signatures is that of the message, as the Standard Webhooks specification has it: `v1,` and base64 of HMAC-SHA-256 over
 * `id.seconds.body`, separated by blanks; `secret` is base64 after `whsec_`.
 */
export function signatureHolds(secret: string, id: string, seconds: string, body: string, signatures: string): boolean {
  const right = mac(Buffer.from(secret.replace(/^whsec_/, ''), 'base64'), `${id}.${seconds}.${body}`);
  return signatures.split(' ').some((one) => {
    const [version, text = ''] = one.split(',', 2);
    const given = Buffer.from(text, 'base64');
    return version === 'v1' && given.length === right.length && crypto.timingSafeEqual(given, right);
  });
}
