import fs from 'node:fs';
import os from 'node:os';

/** All processes below `pid`, itself first; those that are gone are left out. */
function treeOf(pid: number): number[] {
  const found = [pid];
  for (let i = 0; i < found.length; i += 1)
    try {
      const children = fs.readFileSync(`/proc/${found[i]}/task/${found[i]}/children`, 'utf8').trim();
      if (children) found.push(...children.split(' ').map(Number));
    } catch {
      // gone meanwhile
    }
  return found;
}

/** Resident memory of a process and all below it in MB, by the kernel's own count; 0 when it is gone. */
export function residentMb(pid: number): number {
  let kb = 0;
  for (const one of treeOf(pid))
    try {
      kb += Number(/^VmRSS:\s+(\d+) kB/m.exec(fs.readFileSync(`/proc/${one}/status`, 'utf8'))?.[1] ?? 0);
    } catch {
      // gone meanwhile
    }
  return kb / 1024;
}

/** A process that takes long makes way for all others: its share of a core shrinks to what they leave. */
export function makeWay(pid: number): void {
  for (const one of treeOf(pid))
    try {
      // Every thread has a priority of its own.
      for (const thread of fs.readdirSync(`/proc/${one}/task`)) os.setPriority(Number(thread), 15);
    } catch {
      // gone meanwhile
    }
}

/** Why a process was ended. */
export type Ended = 'time' | 'memory';

export interface Watch {
  readonly ended: Ended | null;
  stop(): void;
}

/** Seconds after which a process makes way. */
const PATIENCE_S = 2;

/** Ends a process that takes too long or holds too much; `kill` must end it whatever it does. */
export function watch(
  pid: number,
  limits: { readonly seconds: number; readonly memoryMb: number },
  kill: () => void,
): Watch {
  let ended: Ended | null = null;
  const end = (why: Ended) => {
    ended = why;
    kill();
  };
  const timers = [
    setTimeout(() => end('time'), limits.seconds * 1000),
    setTimeout(() => makeWay(pid), PATIENCE_S * 1000),
  ];
  const looking = setInterval(() => {
    if (residentMb(pid) > limits.memoryMb) end('memory');
  }, 100);
  return {
    get ended() {
      return ended;
    },
    stop() {
      timers.forEach(clearTimeout);
      clearInterval(looking);
    },
  };
}
