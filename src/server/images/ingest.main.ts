import sharp from 'sharp';
import { isTypicaError } from '@/core/errors';
import type { Derivation } from '@/core/findings/remedy';
import { deriveFile } from './derive';
import { ingestFile } from './ingest';

/**
 * The child process: `ingest FILE FOLDER [DERIVATION]` prints one line of JSON, the result or the reason for refusal. With a derivation (JSON)
 * the picture that is made out of the file is written to the folder, and that is looked at.
 */
const [file, folder, asked] = process.argv.slice(2) as [string, string, string?];

// One file is looked at, once: what a decoder might use again is only in the way.
sharp.cache(false);

async function look() {
  if (!asked) return ingestFile(file, folder);
  return ingestFile(await deriveFile(file, folder, JSON.parse(asked) as Derivation), folder);
}

look().then(
  (result) => process.stdout.write(JSON.stringify({ result })),
  (error: unknown) => {
    if (isTypicaError(error)) {
      process.stdout.write(
        JSON.stringify({ refusal: { code: error.code, message: error.message, fields: error.fields } }),
      );
      return;
    }
    process.stderr.write(String((error as Error).stack ?? error));
    process.exitCode = 1;
  },
);
