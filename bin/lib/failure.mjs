/** A failure that is told to the person in one sentence, without a stack. */
export class Failure extends Error {}

/** Runs `main`; a Failure ends with its sentence and exit code 1, anything else with its stack. */
export function run(main) {
  main().catch((error) => {
    process.stderr.write(`typica: ${error instanceof Failure ? error.message : (error.stack ?? error)}\n`);
    process.exit(1);
  });
}
