import { parseArgs } from 'node:util';
import { createRates } from './server';

/** The publisher of rates as a process of its own: `--port N`. */
const { values } = parseArgs({ options: { port: { type: 'string' } } });
const rates = await createRates({ port: Number(values.port) });
process.stdout.write(`Rates at ${rates.url}\n`);
for (const signal of ['SIGTERM', 'SIGINT'] as const)
  process.on(signal, () => void rates.close().then(() => process.exit(0)));
