import { parseArgs } from 'node:util';
import * as broadmere from './broadmere/server';
import type { ShopOptions } from './engine/server';
import * as loopstall from './loopstall/server';
import * as pennyquay from './pennyquay/server';
import * as plainfront from './plainfront/server';

const SHOPS = new Map<string, (options: ShopOptions) => Promise<{ url: string; close(): Promise<void> }>>([
  ['pennyquay', pennyquay.create],
  ['broadmere', broadmere.create],
  ['plainfront', plainfront.create],
  ['loopstall', loopstall.create],
]);

/** A shop as a process of its own: `--shop NAME --port N --data FOLDER --client ID=ADDRESS --pace TIMES`. */
const { values } = parseArgs({
  options: {
    shop: { type: 'string' },
    port: { type: 'string' },
    data: { type: 'string' },
    client: { type: 'string', multiple: true },
    pace: { type: 'string' },
  },
});
const clients = Object.fromEntries(
  (values.client ?? []).map((client) => [client.slice(0, client.indexOf('=')), client.slice(client.indexOf('=') + 1)]),
);
const create = SHOPS.get(values.shop ?? '');
if (!create) throw new Error(`--shop wants one of ${[...SHOPS.keys()].join(', ')}`);
const shop = await create({ port: Number(values.port), data: values.data!, clients, pace: Number(values.pace ?? 1) });
process.stdout.write(`${values.shop} at ${shop.url}\n`);
for (const signal of ['SIGTERM', 'SIGINT'] as const)
  process.on(signal, () => void shop.close().then(() => process.exit(0)));
