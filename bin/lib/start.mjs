import fs from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { build } from './build.mjs';
import { DEMO } from '../../demo/sign-in.mjs';
import { Failure, run } from './failure.mjs';
import { needPorts, SHOPS } from './ports.mjs';
import { claim, processList, stopLeftovers } from './processes.mjs';
import { restarter } from './restart.mjs';
import { startStack } from './stack.mjs';

const root = path.resolve(import.meta.dirname, '../..');
const began = Date.now();
const say = (text) => process.stderr.write(`typica: ${text}\n`);

function options() {
  try {
    const { values } = parseArgs({
      options: { empty: { type: 'boolean', default: false }, port: { type: 'string', default: '4310' } },
    });
    const port = Number(values.port);
    if (!Number.isInteger(port) || port < 1024 || port > 65_000)
      throw new Error(`--port wants a number from 1024 to 65000, not "${values.port}"`);
    return { empty: values.empty, port };
  } catch (error) {
    throw new Failure(`${error.message}. bin/start --help lists the options.`);
  }
}

/** How many workers run; by the environment, one where that says nothing. */
function workerCount() {
  const text = process.env.TYPICA_WORKERS ?? '1';
  const count = Number(text);
  if (!Number.isInteger(count) || count < 1 || count > 16)
    throw new Failure(`TYPICA_WORKERS wants a number of workers from 1 to 16, not "${text}".`);
  return count;
}

run(async () => {
  const { empty, port } = options();
  const workers = workerCount();
  const home = path.resolve(root, process.env.TYPICA_HOME ?? '.typica');
  // What a copy writes is its owner's alone: artwork, logs, keys. The database's own user only passes through to its folder.
  process.umask(0o077);
  fs.mkdirSync(path.join(home, 'run'), { recursive: true });
  fs.chmodSync(home, 0o711);
  const claimFile = path.join(home, 'run', 'start.json');
  if (!claim(claimFile))
    throw new Failure(
      `a copy already runs with its data in ${home}. Use it, stop it, or set TYPICA_HOME to another folder.`,
    );
  const listFile = path.join(home, 'run', 'processes.json');
  const environmentFile = path.join(home, 'run', 'environment.json');
  const left = await stopLeftovers(listFile);
  if (left.length > 0) say(`stopped what an earlier start left behind: ${left.join(', ')}`);

  const shops = Object.fromEntries(Object.entries(SHOPS).map(([name, place]) => [name, port + place]));
  const ports = { web: port, database: port + 1, rates: port + 3, shops };
  await needPorts([
    ['web', ports.web],
    ...(process.env.TYPICA_DATABASE_URL ? [] : [['database', ports.database]]),
    ...Object.entries(shops),
    ['rates', ports.rates],
  ]);

  const processes = processList(listFile);
  const runFile = path.basename(home) + '-' + process.pid;
  let stopping = false;
  const stop = async (code) => {
    if (stopping) return;
    stopping = true;
    await processes.stop();
    fs.rmSync(claimFile, { force: true });
    fs.rmSync(environmentFile, { force: true });
    fs.rmSync(path.join(root, 'dist', 'running', runFile), { force: true });
    process.exit(code);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) {
    process.on(signal, () => {
      if (!stopping) say('stopping');
      void stop(0);
    });
  }

  try {
    // The database and the simulated services come up, and the catalog is read, while the app is built.
    let appBuilt = Promise.resolve();
    await new Promise((programsBuilt, failed) => {
      appBuilt = build(root, { say, runFile, programsBuilt: () => programsBuilt(undefined) });
      appBuilt.catch(failed);
    });
    const stack = await startStack({
      root,
      home,
      ports,
      processes,
      say,
      workers,
      appBuilt,
      ground: !empty,
      onEnd: restarter({ say, stopping: () => stopping }),
    });
    // For npm run catalog and npm run pictures; it holds the database's password.
    fs.writeFileSync(environmentFile, JSON.stringify(stack.env), { mode: 0o600 });
    let signIn = 'Create the first account on that page.';
    if (!empty) {
      // The shop and its range fill up while one already looks around.
      processes.start('range', process.execPath, ['--enable-source-maps', path.join(root, 'dist', 'range.mjs')], {
        cwd: root,
        env: { ...stack.env },
        log: path.join(home, 'log', 'range.log'),
        onExit: () => {},
      });
      signIn = `Sign in as ${DEMO.email} with the password ${DEMO.password}`;
    }
    process.stdout.write(
      `\nTypica runs at ${stack.origin}\n${signIn}\nSimulated shops: ${Object.entries(stack.shops)
        .map(([name, url]) => `${name} at ${url}`)
        .join(
          ', ',
        )}\nData in ${home}; logs in ${path.join(home, 'log')}\nUp after ${((Date.now() - began) / 1000).toFixed(1)} s. Ctrl-C stops it.\n`,
    );
  } catch (error) {
    if (stopping) return;
    process.stderr.write(`typica: ${error instanceof Failure ? error.message : error.stack}\n`);
    await stop(1);
  }
});
