import 'reflect-metadata';
import { plainToInstance, type ClassConstructor } from 'class-transformer';
import { validate, type ValidationError } from 'class-validator';
import { TypicaError } from '@/core/errors';

const MAX_JSON_BYTES = 4 * 1024 * 1024;

/** The request's body as JSON. Throws `body-too-large`, `body-not-json`. */
export async function readJson(request: Request): Promise<unknown> {
  const reader = request.body?.getReader();
  const parts: Uint8Array[] = [];
  let size = 0;
  while (reader) {
    const { done, value } = await reader.read();
    if (done) break;
    size += value.byteLength;
    // What is too much is read on and thrown away, within reason: a client that is cut off in the middle never sees the answer.
    if (size <= MAX_JSON_BYTES) parts.push(value);
    else if (size > 16 * MAX_JSON_BYTES) {
      await reader.cancel();
      break;
    }
  }
  if (size > MAX_JSON_BYTES)
    throw new TypicaError('too-large', 'body-too-large', 'The body is larger than 4 MB; send less at once.');
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(Buffer.concat(parts)));
  } catch (error) {
    throw new TypicaError(
      'invalid',
      'body-not-json',
      'The body is not JSON in UTF-8; check for a missing quote or bracket.',
      {},
      error,
    );
  }
}

const faultsOf = (errors: ValidationError[], prefix = ''): { path: string; says: string }[] =>
  errors.flatMap((error) => {
    const path = `${prefix}/${error.property}`;
    return [
      ...Object.values(error.constraints ?? {}).map((says) => ({ path, says })),
      ...faultsOf(error.children ?? [], path),
    ];
  });

/** The body as a checked instance of `Dto`; all faults at once in `body-invalid`. Unknown members are refused: they are typing mistakes. */
export async function readBody<T extends object>(request: Request, Dto: ClassConstructor<T>): Promise<T> {
  const json = await readJson(request);
  if (typeof json !== 'object' || json === null || Array.isArray(json))
    throw new TypicaError('invalid', 'body-invalid', 'The body must be a JSON object.', { faults: [] });
  const dto = plainToInstance(Dto, json, { enableImplicitConversion: false });
  const faults = faultsOf(
    await validate(dto, { whitelist: true, forbidNonWhitelisted: true, validationError: { target: false } }),
  );
  if (faults.length > 0)
    throw new TypicaError(
      'invalid',
      'body-invalid',
      `The body cannot be taken: ${faults.map((fault) => fault.says).join('; ')}.`,
      { faults },
    );
  return dto;
}
