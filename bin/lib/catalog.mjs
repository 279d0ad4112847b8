import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { Failure, run } from './failure.mjs';

/** `npm run catalog`: loads the demo's partners and blanks into the copy that runs with this TYPICA_HOME. */
run(async () => {
  const root = path.resolve(import.meta.dirname, '../..');
  const home = path.resolve(root, process.env.TYPICA_HOME ?? '.typica');
  const file = path.join(home, 'run', 'environment.json');
  if (!fs.existsSync(file))
    throw new Failure(`no copy runs with its data in ${home}. Start it first: bin/start --empty`);
  const env = JSON.parse(fs.readFileSync(file, 'utf8'));
  const done = spawnSync(process.execPath, ['--enable-source-maps', 'dist/catalog.mjs'], {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  if (done.status !== 0) throw new Failure('the catalog was not loaded; the reason is above.');
  process.stdout.write('The catalog is loaded: reload Blanks.\n');
});
