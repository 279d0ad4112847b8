import { spawnSync } from 'node:child_process';

const COUNT = process.env.SYNC_HISTORIES ?? '10000';

/** Histories of a listing against their own bookkeeping: the test that bin/test runs with 300 of them, with more. Its seed and counts are printed. */
export default function sync(): Promise<boolean> {
  const { status } = spawnSync('npx', ['vitest', 'run', '--project', 'world', 'tests/world/sync-histories.test.ts'], {
    env: { ...process.env, SYNC_HISTORIES: COUNT },
    stdio: 'inherit',
  });
  return Promise.resolve(status === 0);
}
