import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { log } from '../log';

/** What a process that reads strangers' files may see of the disk. */
export interface Mounts {
  readonly readOnly: readonly string[];
  readonly writable: readonly string[];
}

/** The system's own programs and libraries, and what of the checkout the programs need. */
const SYSTEM = ['/usr', '/etc/ld.so.cache', '/etc/fonts', '/etc/ssl/openssl.cnf'];
const LINKS = ['/bin', '/sbin', '/lib', '/lib32', '/lib64', '/libx32'];
const CHECKOUT = ['node_modules', 'dist', 'src/core/print/wasm', 'package.json'];

const BASE = [
  // No network, no other processes, no other users, nothing of the disk but what is bound below.
  '--unshare-all',
  '--die-with-parent',
  '--new-session',
  ...['--proc', '/proc'],
  ...['--dev', '/dev'],
  ...['--tmpfs', '/tmp'],
];

function bindings({ readOnly, writable }: Mounts): string[] {
  const links = LINKS.flatMap((link) => {
    const stat = fs.lstatSync(link, { throwIfNoEntry: false });
    if (!stat) return [];
    return stat.isSymbolicLink() ? ['--symlink', fs.readlinkSync(link), link] : ['--ro-bind', link, link];
  });
  const node = path.dirname(path.dirname(fs.realpathSync(process.execPath)));
  const seen = [...SYSTEM, node, ...CHECKOUT.map((name) => path.join(process.cwd(), name)), ...readOnly];
  return [
    ...links,
    ...seen.filter((place) => fs.existsSync(place)).flatMap((place) => ['--ro-bind', place, place]),
    ...writable.flatMap((place) => ['--bind', place, place]),
    ...['--chdir', process.cwd()],
  ];
}

let works: boolean | null = null;

/** Whether this machine lets us shut processes in (bubblewrap). Tried once; where it does not, it is logged, and limits of time and memory remain. */
export function canShutIn(): boolean {
  if (works !== null) return works;
  const tried = spawnSync(
    'bwrap',
    [...BASE, ...bindings({ readOnly: [], writable: [] }), '--', process.execPath, '-e', '0'],
    {
      encoding: 'utf8',
      timeout: 10_000,
    },
  );
  works = tried.status === 0;
  if (!works)
    log.warn(
      { says: (tried.stderr || String(tried.error ?? '')).slice(0, 300) },
      'bubblewrap does not work on this machine: uploaded files are read without a sandbox (docs/security.md)',
    );
  return works;
}

/** How a Node.js program is started so that it sees only `mounts`, with an environment of its own that holds no secret. */
export function shutIn(
  mounts: Mounts,
  nodeArguments: readonly string[],
  env: Readonly<Record<string, string>> = {},
): { readonly command: string; readonly args: string[]; readonly env: Record<string, string> } {
  const own = { PATH: process.env.PATH ?? '', NODE_ENV: 'production', ...env };
  if (!canShutIn()) return { command: process.execPath, args: [...nodeArguments], env: own };
  return {
    command: 'bwrap',
    args: [...BASE, ...bindings(mounts), '--', process.execPath, ...nodeArguments],
    env: own,
  };
}
