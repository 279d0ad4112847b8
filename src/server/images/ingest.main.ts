import { isTypicaError } from '@/core/errors';
import { ingestFile } from './ingest';

/** The child process: `ingest FILE FOLDER` prints one line of JSON, the result or the reason for refusal. */
const [file, folder] = process.argv.slice(2);
ingestFile(file!, folder!).then(
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
