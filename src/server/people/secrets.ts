import crypto from 'node:crypto';

/** A new random token for a browser or a script, 256 bits. */
export const newToken = (): string => crypto.randomBytes(32).toString('base64url');

/** What is stored of a token. It is random, so one hash is enough: there is nothing to guess. */
export const tokenHash = (token: string): string => crypto.createHash('sha256').update(token).digest('hex');

/** Seals text with AES-256-GCM; `bound` (such as the row's id) must be given again to open it. Layout: 12 bytes nonce, 16 bytes tag, text. */
export function seal(key: Buffer, text: string, bound: string): Buffer {
  const nonce = crypto.randomBytes(12);
  const cipher = crypto.createCipheriv('aes-256-gcm', key, nonce);
  cipher.setAAD(Buffer.from(bound));
  const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
  return Buffer.concat([nonce, cipher.getAuthTag(), sealed]);
}

/** Opens what `seal` made. Throws when key, bytes or `bound` are not the same. */
export function open(key: Buffer, sealed: Buffer, bound: string): string {
  const decipher = crypto.createDecipheriv('aes-256-gcm', key, sealed.subarray(0, 12));
  decipher.setAAD(Buffer.from(bound));
  decipher.setAuthTag(sealed.subarray(12, 28));
  return decipher.update(sealed.subarray(28), undefined, 'utf8') + decipher.final('utf8');
}
