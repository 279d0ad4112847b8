import canonicalize from 'canonicalize';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { TypicaError } from '../errors';

/** Canonical JSON text of a value (RFC 8785). Throws `not-json` for what JSON cannot hold. */
export function canonicalJson(value: unknown): string {
  const text = canonicalize(value);
  if (text === undefined) throw new TypicaError('bug', 'not-json', 'a value without a JSON form was to be written');
  return text;
}

/** SHA-256 of a text's UTF-8 bytes, lower-case hexadecimal. */
export const sha256Hex = (text: string): string => bytesToHex(sha256(new TextEncoder().encode(text)));

/** Hash of a value by content: key order and spelling of numbers do not matter. */
export const contentHash = (value: unknown): string => sha256Hex(canonicalJson(value));
