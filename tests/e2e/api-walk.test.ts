import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { expect, inject, it } from 'vitest';

/**
 * Runs the shell walk of docs/api.md as it stands there, from an upload to a live listing, so that the page cannot lie. Its blocks are
 * put together into one script; only the address differs.
 */
it('the curl walk of docs/api.md ends on a live listing', async () => {
  const page = fs.readFileSync(path.resolve(import.meta.dirname, '../../docs/api.md'), 'utf8');
  const walk = page.slice(page.indexOf('## A walk with curl'));
  const script = [...walk.matchAll(/```sh\n([\s\S]*?)```/g)].map((match) => match[1]).join('\n');
  expect(script).toContain('curl');
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'typica-walk-'));
  fs.copyFileSync(
    path.resolve(import.meta.dirname, '../../demo/artwork/pennants.svg'),
    path.join(folder, 'pennants.svg'),
  );
  fs.writeFileSync(
    path.join(folder, 'walk.sh'),
    `set -euo pipefail\n${script.replaceAll('http://127.0.0.1:4310', inject('origin'))}`,
  );
  const out = execFileSync('bash', ['walk.sh'], { cwd: folder, encoding: 'utf8', timeout: 90_000 });
  const address = out.trim().split('\n').at(-1)!;
  expect(address).toMatch(/\/items\/it-/);
  const shown = await (await fetch(address)).text();
  expect(shown).toContain('Pennants mug');
  expect(shown).not.toContain('A draft');
  fs.rmSync(folder, { recursive: true });
});
