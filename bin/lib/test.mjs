import { spawn } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { build } from './build.mjs';
import { Failure, run } from './failure.mjs';

const root = path.resolve(import.meta.dirname, '../..');
const say = (text) => process.stdout.write(`${text}\n`);
const results = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-test-'));
let passed = 0;
let failed = 0;

/** Runs a program to its end; its output is shown when it fails, or always when `show`. */
function program(args, { show = false } = {}) {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, args, {
      cwd: root,
      env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', FORCE_COLOR: '0' },
      stdio: ['ignore', show ? 'inherit' : 'pipe', show ? 'inherit' : 'pipe'],
    });
    let out = '';
    child.stdout?.on('data', (part) => (out += part));
    child.stderr?.on('data', (part) => (out += part));
    child.on('exit', (code) => {
      if (code !== 0 && !show) process.stdout.write(out);
      resolve(code === 0);
    });
  });
}

/** One step with its name and time; a static check counts as one. */
async function step(name, work) {
  const began = Date.now();
  const { ok, count } = await work();
  const seconds = ((Date.now() - began) / 1000).toFixed(1);
  passed += count.passed;
  failed += count.failed;
  say(
    `${ok ? 'ok    ' : 'FAILED'} ${name}, ${seconds} s${count.passed + count.failed > 1 ? `, ${count.passed} passed, ${count.failed} failed` : ''}`,
  );
  return ok;
}

const check =
  (...args) =>
  async () => {
    const ok = await program(args);
    return { ok, count: { passed: ok ? 1 : 0, failed: ok ? 0 : 1 } };
  };

const tests = (project) => async () => {
  const file = path.join(results, `${project}.json`);
  const done = await program([
    'node_modules/vitest/vitest.mjs',
    'run',
    '--project',
    project,
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${file}`,
  ]);
  const told = fs.existsSync(file)
    ? JSON.parse(fs.readFileSync(file, 'utf8'))
    : { numPassedTests: 0, numFailedTests: 1 };
  const ok = done && told.numFailedTests === 0 && told.numPassedTests > 0;
  return {
    ok,
    count: { passed: told.numPassedTests, failed: told.numFailedTests + (ok || told.numFailedTests > 0 ? 0 : 1) },
  };
};

run(async () => {
  const began = Date.now();
  /** Checks that only read. */
  const readings = async () => {
    await step('format', check('node_modules/prettier/bin/prettier.cjs', '--check', '--log-level=warn', '.'));
    await step('lint', check('node_modules/eslint/bin/eslint.js', '--max-warnings=0', '.'));
    await step(
      'import rules',
      check(
        'node_modules/dependency-cruiser/bin/dependency-cruise.mjs',
        '--config',
        '.dependency-cruiser.cjs',
        'src',
        'demo',
        'tests',
      ),
    );
    await step('nothing unused', check('node_modules/knip/bin/knip.js', '--no-progress'));
    await step('packages in use', check('node_modules/depcheck/bin/depcheck.js'));
    await step('routes’ types', check('node_modules/next/dist/bin/next', 'typegen'));
    await step('types', check('node_modules/typescript/bin/tsc', '--noEmit'));
  };
  await step('unit tests', tests('unit'));
  const runFile = `test-${process.pid}`;
  const built = await step('build', async () => {
    try {
      await build(root, { say, runFile });
      return { ok: true, count: { passed: 1, failed: 0 } };
    } catch (error) {
      if (!(error instanceof Failure)) throw error;
      say(error.message);
      return { ok: false, count: { passed: 0, failed: 1 } };
    }
  });
  if (built) {
    // Database tests wait as much as they compute: what only reads goes beside them.
    await Promise.all([step('database tests', tests('world')), readings()]);
    await step('browser tests', tests('e2e'));
  } else await readings();
  fs.rmSync(path.join(root, 'dist', 'running', runFile), { force: true });
  fs.rmSync(results, { recursive: true, force: true });
  say(`${Math.round((Date.now() - began) / 1000)} s in all`);
  say(`tests: ${passed} passed, ${failed} failed`);
  process.exitCode = failed === 0 ? 0 : 1;
});
