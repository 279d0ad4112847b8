import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { build } from '../../bin/lib/build.mjs';
import { freePort, freeShopPorts } from '../../bin/lib/ports.mjs';
import { processList } from '../../bin/lib/processes.mjs';
import { restarter } from '../../bin/lib/restart.mjs';
import { startStack } from '../../bin/lib/stack.mjs';

const root = path.resolve(import.meta.dirname, '../..');

/** The whole of Typica as bin/start runs it, with the demo's data, on free ports and in a home of its own; gone afterwards. */
export async function withStack(
  work: (
    stack: {
      origin: string;
      shopUrl: string;
      shops: Record<string, string>;
      databaseUrl: string;
      webPid: number;
      processesFile: string;
    },
    say: (text: string) => void,
  ) => Promise<boolean>,
  { workers = 1, shops = ['pennyquay'], pace = 1 } = {},
): Promise<boolean> {
  const say = (text: string) => process.stdout.write(`${text}\n`);
  const home = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-soak-'));
  fs.mkdirSync(path.join(home, 'run'), { recursive: true });
  const list = path.join(home, 'run', 'processes.json');
  const processes = processList(list);
  const runFile = `soak-${process.pid}`;
  process.env.TYPICA_SIGN_UPS_PER_HOUR ??= '1000';
  const ports = { web: await freePort(), database: await freePort(), shops: await freeShopPorts(shops) };
  let stopping = false;
  try {
    await build(root, { say, runFile });
    const onEnd = restarter({ say: () => {}, stopping: () => stopping });
    const stack = await startStack({ root, home, ports, processes, say, workers, pace, durable: false, onEnd });
    stack.runProgram('demo');
    const started = JSON.parse(fs.readFileSync(list, 'utf8')) as { name: string; pid: number }[];
    const webPid = started.find((one) => one.name === 'web')!.pid;
    const { origin, shops: urls, url: databaseUrl } = stack;
    return await work({ origin, shopUrl: urls.pennyquay!, shops: urls, databaseUrl, webPid, processesFile: list }, say);
  } finally {
    stopping = true;
    await processes.stop();
    fs.rmSync(path.join(root, 'dist', 'running', runFile), { force: true });
    fs.rmSync(home, { recursive: true, force: true });
  }
}
