import path from 'node:path';
import { build } from 'esbuild';

/** One file of JavaScript, as bin/start makes of its programs: a loader that compiles on the way would be measured with it. */
export async function bundle(file: string, name: string): Promise<string> {
  const outfile = path.join(import.meta.dirname, `../../node_modules/.cache/typica-bench/${name}.mjs`);
  await build({
    entryPoints: [file],
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    outfile,
  });
  return outfile;
}
