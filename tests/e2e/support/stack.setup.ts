import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import type { TestProject } from 'vitest/node';
import { freePort, freeShopPorts } from '../../../bin/lib/ports.mjs';
import { processList } from '../../../bin/lib/processes.mjs';
import { restarter } from '../../../bin/lib/restart.mjs';
import { startStack } from '../../../bin/lib/stack.mjs';

declare module 'vitest' {
  interface ProvidedContext {
    origin: string;
    shopUrl: string;
    databaseUrl: string;
    /** Processes of the stack, with their pids; web is started again when it dies. */
    processesFile: string;
  }
}

/** The whole of Typica as bin/start runs it, on free ports with a home of its own, with the demo's data. Needs the build. */
export default async function setup(project: TestProject) {
  const root = path.resolve(import.meta.dirname, '../../..');
  const home = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-e2e-'));
  fs.mkdirSync(path.join(home, 'run'), { recursive: true });
  const processesFile = path.join(home, 'run', 'processes.json');
  const processes = processList(processesFile);
  let stopping = false;
  const onEnd = restarter({ say: () => {}, stopping: () => stopping });
  // All tests come from one place.
  process.env.TYPICA_SIGN_UPS_PER_HOUR ??= '1000';
  // What tests change in shops is seen when they have it looked at, and not in between.
  process.env.TYPICA_LOOK_SECONDS ??= '0';
  const ports = { web: await freePort(), database: await freePort(), shops: await freeShopPorts() };
  try {
    const stack = await startStack({ root, home, ports, processes, say: () => {}, durable: false, onEnd });
    stack.runProgram('demo');
    project.provide('origin', stack.origin);
    project.provide('shopUrl', stack.shops.pennyquay!);
    project.provide('databaseUrl', stack.url);
    project.provide('processesFile', processesFile);
  } catch (error) {
    await processes.stop();
    throw error;
  }
  return async () => {
    stopping = true;
    await processes.stop();
    if (process.env.KEEP_LOGS) process.stdout.write(`logs in ${home}/log\n`);
    else fs.rmSync(home, { recursive: true, force: true });
  };
}
