import { parseArgs } from 'node:util';
import { create } from './server';

/** Pennyquay as a process of its own: `--port N --data FOLDER --client ID=ADDRESS`. */
const { values } = parseArgs({
  options: {
    port: { type: 'string' },
    data: { type: 'string' },
    client: { type: 'string', multiple: true },
  },
});
const clients = Object.fromEntries(
  (values.client ?? []).map((client) => [client.slice(0, client.indexOf('=')), client.slice(client.indexOf('=') + 1)]),
);
const shop = await create({
  port: Number(values.port),
  data: values.data!,
  clients,
});
process.stdout.write(`Pennyquay at ${shop.url}\n`);
for (const signal of ['SIGTERM', 'SIGINT'] as const)
  process.on(signal, () => void shop.close().then(() => process.exit(0)));
