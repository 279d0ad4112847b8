import 'reflect-metadata';
import { validate, type ValidationError } from 'class-validator';
import { TypicaError } from '@/core/errors';
import { jsonFault, unprintableText } from '@/core/json/bounds';
import { instanceOf, type DtoClass } from './dto/shape';

/** Most that a request for JSON may hold; a product's patch and a photograph's marks need it, nothing else does. */
export const MAX_JSON_BYTES = 4 * 1024 * 1024;
const FORM_BYTES = 1024 * 1024;
const BOUNDS = { maxDepth: 64, maxValues: 400_000 };
/** Faults that are told; who made more has read enough. */
const MAX_FAULTS = 50;

const tooLarge = (maxBytes: number) =>
  new TypicaError(
    'too-large',
    'body-too-large',
    `The request is larger than ${maxBytes / 1024 / 1024} MB; send less at once.`,
  );
const notTaken = (says: string, faults: { path: string; says: string }[] = []) =>
  new TypicaError('invalid', 'body-invalid', `The request is invalid: ${says}`, { faults });

async function readBytes(request: Request, maxBytes: number): Promise<Buffer> {
  const reader = request.body?.getReader();
  const parts: Uint8Array[] = [];
  let size = 0;
  while (reader) {
    const { done, value } = await reader.read();
    if (done) break;
    size += value.byteLength;
    // What is too much is read on and thrown away, within reason: a client that is cut off in the middle never sees the answer.
    if (size <= maxBytes) parts.push(value);
    else if (size > 16 * MAX_JSON_BYTES) {
      await reader.cancel();
      break;
    }
  }
  if (size > maxBytes) throw tooLarge(maxBytes);
  return Buffer.concat(parts);
}

/** The request's body as text, as it came. Throws `body-too-large`. */
export const readText = async (request: Request, maxBytes: number): Promise<string> =>
  (await readBytes(request, maxBytes)).toString('utf8');

/** The request's body as JSON. Throws `body-too-large`, `body-not-json`, `body-invalid` for what is nested too deep or holds no text. */
export async function readJson(request: Request, maxBytes = MAX_JSON_BYTES): Promise<unknown> {
  const bytes = await readBytes(request, maxBytes);
  let value: unknown;
  let escapes = false;
  try {
    const text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    const fault = jsonFault(text, BOUNDS);
    if (fault === 'too-deep') throw notTaken(`it is nested more than ${BOUNDS.maxDepth} deep.`);
    if (fault === 'too-many') throw notTaken(`it holds more than ${BOUNDS.maxValues} values; send less at once.`);
    value = JSON.parse(text);
    // Half characters and control characters get into JSON only as escapes.
    escapes = /\\[ubf]/.test(text);
  } catch (error) {
    if (error instanceof TypicaError) throw error;
    throw new TypicaError(
      'invalid',
      'body-not-json',
      'The request is not JSON in UTF-8; check for a missing quote or bracket.',
      {},
      error,
    );
  }
  if (escapes && unprintableText(value) !== null)
    throw notTaken('a text in it holds a control character or half of a character; remove it.');
  return value;
}

/** Faults of checks, the first fifty. */
function faultsOf(errors: readonly ValidationError[]): { path: string; says: string }[] {
  const faults: { path: string; says: string }[] = [];
  const walk = (all: readonly ValidationError[], prefix: string) => {
    for (const error of all) {
      if (faults.length >= MAX_FAULTS) return;
      const path = `${prefix}/${error.property}`;
      for (const says of Object.values(error.constraints ?? {})) faults.push({ path, says });
      walk(error.children ?? [], path);
    }
  };
  walk(errors, '');
  return faults.slice(0, MAX_FAULTS);
}

/** The body as a checked instance of `Dto`; all faults at once in `body-invalid`. Unknown members are refused by name: they are typing mistakes. */
export async function readBody<T extends object>(
  request: Request,
  Dto: DtoClass<T>,
  maxBytes = FORM_BYTES,
): Promise<T> {
  const json = await readJson(request, maxBytes);
  if (typeof json !== 'object' || json === null || Array.isArray(json)) throw notTaken('it must be a JSON object.');
  const { value, unknown, tooMany } = instanceOf(Dto, json);
  if (unknown.length > 0)
    throw notTaken(
      `${unknown
        .slice(0, 3)
        .map((path) => `“${path.slice(1)}”`)
        .join(', ')} ${unknown.length === 1 ? 'is' : 'are'} not known here.`,
      unknown.map((path) => ({ path, says: 'is not known here' })),
    );
  if (tooMany) throw notTaken('it holds more objects than are taken at once; send less.');
  const faults = faultsOf(await validate(value, { validationError: { target: false, value: false } }));
  if (faults.length > 0) throw notTaken(`${faults.map((fault) => fault.says).join('; ')}.`, faults);
  return value;
}
