import { spawn } from 'node:child_process';
import crypto from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { build as esbuild } from 'esbuild';
import { Failure } from './failure.mjs';
import { claim, isClaimed } from './processes.mjs';

const SOURCES = ['src', 'demo', 'package-lock.json', 'next.config.mjs', 'postcss.config.mjs', 'tsconfig.json'];

function hashOf(root) {
  const hash = crypto.createHash('sha256');
  const walk = (file) => {
    const stat = fs.statSync(file);
    if (stat.isDirectory()) for (const name of fs.readdirSync(file).sort()) walk(path.join(file, name));
    else if (/\.(tsx?|mts|mjs|css|json|sql|svg|ico)$/.test(file) && !/\.test\.tsx?$/.test(file)) {
      hash.update(path.relative(root, file)).update('\0').update(fs.readFileSync(file));
    }
  };
  for (const name of SOURCES) walk(path.join(root, name));
  return hash.digest('hex');
}

/** Programs beside the web app, bundled so that they start in a fraction of a second. */
const PROGRAMS = {
  migrate: 'src/server/db/migrate.main.ts',
  web: 'src/server/web.main.ts',
  worker: 'src/server/jobs/worker.main.ts',
  reckoner: 'src/server/reckoning/reckoner.main.ts',
  ingest: 'src/server/images/ingest.main.ts',
  printer: 'src/server/prints/printer.main.ts',
  painter: 'src/server/pictures/painter.main.ts',
  shop: 'src/sim/main.ts',
  rates: 'src/sim/rates/main.ts',
  catalog: 'demo/catalog.main.ts',
  ground: 'demo/ground.main.ts',
  demo: 'demo/demo.main.ts',
  range: 'demo/range.main.ts',
};

/** Runs `next build`; its output is told when it fails. */
function buildApp(root) {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'build'], {
      cwd: root,
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { ...process.env, NODE_ENV: 'production', NEXT_TELEMETRY_DISABLED: '1' },
    });
    // Who is stopped meanwhile leaves nothing behind that still builds.
    const stop = () => child.kill();
    process.once('exit', stop);
    let said = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (text) => (said += text));
    child.on('error', reject);
    child.on('close', (code) => {
      process.off('exit', stop);
      if (code === 0) resolve();
      else reject(new Failure(`the build failed:\n${said}`));
    });
  });
}

/**
 * Builds the web app (.next) and the programs (dist) when the sources changed since the last build.
 * One build per checkout serves all copies that run from it; a copy that runs an older build is never pulled from under.
 * `programsBuilt` is called as soon as the programs can be started; the app takes longer.
 */
export async function build(root, { say, runFile, programsBuilt = () => {} }) {
  const dist = path.join(root, 'dist');
  const running = path.join(dist, 'running');
  fs.mkdirSync(running, { recursive: true });
  const lock = path.join(dist, 'build.lock');
  const until = Date.now() + 300_000;
  while (!claim(lock)) {
    if (Date.now() > until)
      throw new Failure('another bin/start has been building this checkout for five minutes; is it stuck?');
    await delay(300);
  }
  try {
    const stamp = path.join(dist, 'built');
    const want = hashOf(root);
    const have = fs.existsSync(stamp) ? fs.readFileSync(stamp, 'utf8') : '';
    if (have !== want) {
      const others = fs.readdirSync(running).filter((name) => isClaimed(path.join(running, name)));
      if (others.length > 0) {
        throw new Failure(
          'the sources changed, and another copy still runs from this checkout on the older build. Stop it first, or use a clone of your own.',
        );
      }
      fs.rmSync(stamp, { force: true });
      say('building (about a minute)');
      await esbuild({
        absWorkingDir: root,
        entryPoints: PROGRAMS,
        outdir: dist,
        bundle: true,
        platform: 'node',
        target: 'node20',
        format: 'esm',
        packages: 'external',
        outExtension: { '.js': '.mjs' },
        sourcemap: true,
        logLevel: 'error',
      });
      programsBuilt();
      await buildApp(root);
      fs.writeFileSync(stamp, want);
    }
    claim(path.join(running, runFile));
    programsBuilt();
  } finally {
    fs.rmSync(lock, { force: true });
  }
}
