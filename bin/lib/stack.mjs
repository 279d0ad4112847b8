import crypto from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { spawn, spawnSync } from 'node:child_process';
import { setTimeout as delay } from 'node:timers/promises';
import { Failure } from './failure.mjs';
import { startMariaDb } from './mariadb.mjs';

// Heaps of JavaScript; the whole table of memory is in docs/architecture.md.
const WEB_HEAP_MB = 400;
const WORKER_HEAP_MB = 300;
// Space for what lives short: with the usual 16 MB a worker that sends spends a tenth of its time on throwing it away.
const WORKER_YOUNG_MB = 32;

const lastLines = (file, count = 15) =>
  fs.existsSync(file) ? fs.readFileSync(file, 'utf8').trimEnd().split('\n').slice(-count).join('\n') : '(no log)';

async function waitFor(url, { log, name, ended, seconds = 60 }) {
  const until = Date.now() + seconds * 1000;
  for (;;) {
    if (ended() !== undefined)
      throw new Failure(`${name} ended with ${ended()} while starting. The end of ${log}:\n${lastLines(log)}`);
    try {
      const answer = await fetch(url, { redirect: 'manual' });
      if (answer.status < 500) return;
    } catch {
      // not listening yet
    }
    if (Date.now() > until)
      throw new Failure(
        `${name} did not answer on ${url} within ${seconds} seconds. The end of ${log}:\n${lastLines(log)}`,
      );
    await delay(100);
  }
}

/** The key that seals stores' secrets, made once and readable by its owner only. */
function masterKey(home) {
  const file = path.join(home, 'secret.key');
  if (!fs.existsSync(file)) fs.writeFileSync(file, crypto.randomBytes(32).toString('base64'), { mode: 0o600 });
  return file;
}

/**
 * Database, simulated services, web app and workers of one home; used by bin/start and by the browser tests.
 * `ports`: { web, database, rates, shops: { pennyquay, … } }; without `rates` no exchange rates come by themselves. `pace`: how many times faster
 * than real the shops' clocks run. `appBuilt`: settles when the web app can be started; the rest comes up meanwhile. `ground`: lays the demo's catalog and
 * account, too. Gives `{ origin, shops, env, runProgram }`.
 */
export async function startStack({
  root,
  home,
  ports,
  processes,
  say,
  workers = 1,
  durable = true,
  pace = 1,
  appBuilt = Promise.resolve(),
  ground = false,
  onEnd = /** @type {(end: { name: string, how: unknown, log: string, again: () => unknown }) => void} */ (() => {}),
}) {
  const logs = path.join(home, 'log');
  fs.mkdirSync(logs, { recursive: true });
  let url = process.env.TYPICA_DATABASE_URL;
  let setUpUrl = process.env.TYPICA_DATABASE_SETUP_URL ?? url;
  if (!url) {
    say('starting the database');
    const dir = path.join(home, 'mariadb');
    let gone = () => {};
    const database = await startMariaDb({
      dir,
      port: ports.database,
      durable,
      onStart: (pid) => {
        gone();
        gone = processes.adopt('database', pid);
      },
      onEnd: (how) => {
        gone();
        onEnd({ name: 'database', how, log: path.join(dir, 'error.log'), again: database.again });
      },
    });
    url = database.url;
    setUpUrl = database.setUpUrl;
  }
  // Behind a proxy of the operator's the address is another one.
  const own = `http://127.0.0.1:${ports.web}`;
  const origin = process.env.TYPICA_ORIGIN ?? own;
  const shops = Object.fromEntries(
    Object.entries(ports.shops).map(([name, port]) => [name, `http://127.0.0.1:${port}`]),
  );
  const env = {
    NODE_ENV: 'production',
    NEXT_TELEMETRY_DISABLED: '1',
    TYPICA_HOME: home,
    TYPICA_DATABASE_URL: url,
    TYPICA_ORIGIN: origin,
    TYPICA_WEB_PORT: String(ports.web),
    TYPICA_KEY_FILE: masterKey(home),
    ...Object.fromEntries(Object.entries(shops).map(([name, at]) => [`TYPICA_${name.toUpperCase()}_URL`, at])),
    ...(pace === 1 ? {} : { TYPICA_SHOP_PACE: String(pace) }),
    ...(ports.rates ? { TYPICA_RATES_URL: `http://127.0.0.1:${ports.rates}` } : {}),
  };
  const runProgram = (name, args = [], more = {}) => {
    const done = spawnSync(
      process.execPath,
      ['--enable-source-maps', path.join(root, 'dist', `${name}.mjs`), ...args],
      {
        cwd: root,
        encoding: 'utf8',
        env: { ...process.env, ...env, ...more },
      },
    );
    if (done.status !== 0) throw new Failure(`${name} failed:\n${done.stdout}${done.stderr}`.trimEnd());
    return done.stdout;
  };
  /** The same, while other things go on here. */
  const runMeanwhile = (name) =>
    new Promise((resolve, reject) => {
      let said = '';
      const child = spawn(process.execPath, ['--enable-source-maps', path.join(root, 'dist', `${name}.mjs`)], {
        cwd: root,
        stdio: ['ignore', 'pipe', 'pipe'],
        env: { ...process.env, ...env },
      });
      for (const stream of [child.stdout, child.stderr]) stream.on('data', (text) => (said += text));
      child.on('error', reject);
      child.on('close', (code) => (code === 0 ? resolve() : reject(new Failure(`${name} failed:\n${said}`.trimEnd()))));
    });
  runProgram('migrate', [], { TYPICA_DATABASE_URL: setUpUrl });

  const startProgram = async (name, args, health) => {
    const log = path.join(logs, `${name}.log`);
    let ended;
    let up = false;
    const begin = () =>
      processes.start(name, process.execPath, args, {
        cwd: root,
        env,
        log,
        onExit: (how) => {
          ended = how;
          if (up) onEnd({ name, how, log, again: begin });
        },
      });
    begin();
    if (health) await waitFor(health, { log, name, ended: () => ended });
    up = true;
    return () => ended;
  };
  await Promise.all(
    Object.entries(shops).map(([name, at]) =>
      startProgram(
        name,
        [
          '--enable-source-maps',
          'dist/shop.mjs',
          '--shop',
          name,
          '--port',
          String(ports.shops[name]),
          '--data',
          path.join(home, 'sim', name),
          '--client',
          `typica=${origin}/api/v1/stores/callback`,
          '--pace',
          String(pace),
        ],
        `${at}/health`,
      ),
    ),
  );
  if (ports.rates)
    await startProgram(
      'rates',
      ['--enable-source-maps', 'dist/rates.mjs', '--port', String(ports.rates)],
      `http://127.0.0.1:${ports.rates}/health`,
    );
  await Promise.all([appBuilt, ground ? runMeanwhile('ground') : null]);
  await startProgram(
    'web',
    ['--enable-source-maps', `--max-old-space-size=${WEB_HEAP_MB}`, 'dist/web.mjs'],
    `${own}/api/v1/health`,
  );
  const workerEnds = [];
  for (let i = 1; i <= workers; i += 1)
    workerEnds.push(
      await startProgram(`worker-${i}`, [
        '--enable-source-maps',
        `--max-old-space-size=${WORKER_HEAP_MB}`,
        `--max-semi-space-size=${WORKER_YOUNG_MB}`,
        'dist/worker.mjs',
      ]),
    );
  return { origin, shops, env, url, runProgram };
}
