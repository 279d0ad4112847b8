import { spawn } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';

/** Kernel start time of a process: with the pid it names one process for good, since pids are used again. */
function startTime(pid) {
  try {
    const stat = fs.readFileSync(`/proc/${pid}/stat`, 'utf8');
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
    // One that has ended and was not taken note of yet runs no more.
    return fields[0] === 'Z' ? null : fields[19];
  } catch {
    return null;
  }
}

const sameProcess = ({ pid, started }) => started !== null && startTime(pid) === started;

async function stopOne(child, graceMs) {
  if (!sameProcess(child)) return;
  process.kill(child.pid, 'SIGTERM');
  const until = Date.now() + graceMs;
  while (sameProcess(child) && Date.now() < until) await delay(50);
  if (sameProcess(child)) process.kill(child.pid, 'SIGKILL');
  while (sameProcess(child)) await delay(20);
}

/**
 * The processes that one start made, written to `file` so that the next start can end what a killed one left behind.
 * Only processes in this list are ever signalled, and only while pid and start time agree.
 */
export function processList(file) {
  const children = [];
  // In one step: a half-written list would leave processes behind that nobody knows of.
  const save = () => {
    const entries = children
      .filter((one) => !one.gone)
      .map(({ name, pid, started, graceMs }) => ({ name, pid, started, graceMs }));
    fs.writeFileSync(`${file}.new`, JSON.stringify(entries));
    fs.renameSync(`${file}.new`, file);
  };
  return {
    /** Starts a program in a session of its own, so that Ctrl-C reaches only us and we stop things in order. */
    start(name, command, args, { env = {}, cwd, log, graceMs = 8000, onExit } = {}) {
      fs.mkdirSync(path.dirname(log), { recursive: true });
      const out = fs.openSync(log, 'a');
      const child = spawn(command, args, {
        cwd,
        env: { ...process.env, ...env },
        detached: true,
        stdio: ['ignore', out, out],
      });
      fs.closeSync(out);
      const entry = { name, pid: child.pid, started: child.pid ? startTime(child.pid) : null, graceMs, child };
      children.push(entry);
      save();
      child.on('error', (error) => onExit?.(error.message));
      child.on('exit', (code, signal) => {
        entry.gone = true;
        onExit?.(signal ?? code);
      });
      return child;
    },
    /** Takes in a process started elsewhere (the database) to be stopped with the rest. Gives what says that it has ended. */
    adopt(name, pid, graceMs = 20_000) {
      const entry = { name, pid, started: startTime(pid), graceMs };
      children.push(entry);
      save();
      return () => (entry.gone = true);
    },
    /** Stops everything, the last started first. */
    async stop() {
      for (const entry of [...children].reverse()) if (!entry.gone) await stopOne(entry, entry.graceMs);
      children.length = 0;
      fs.rmSync(file, { force: true });
    },
  };
}

/** Ends what an earlier start left running. Returns the names of what it stopped. */
export async function stopLeftovers(file) {
  let entries = [];
  try {
    entries = JSON.parse(fs.readFileSync(file, 'utf8'));
  } catch {
    return [];
  }
  const stopped = [];
  for (const entry of entries.reverse()) {
    if (!sameProcess(entry)) continue;
    await stopOne(entry, entry.graceMs ?? 8000);
    stopped.push(entry.name);
  }
  fs.rmSync(file, { force: true });
  return stopped;
}

/** Takes `file` as this process's claim on a folder; false when a living process holds it. Of two that come at once one gets it. */
export function claim(file) {
  const own = `${file}.${process.pid}`;
  fs.writeFileSync(own, JSON.stringify({ pid: process.pid, started: startTime(process.pid) }));
  try {
    for (;;) {
      try {
        // A link is made by one only, and is whole from the first moment.
        fs.linkSync(own, file);
        return true;
      } catch (error) {
        if (error.code !== 'EEXIST') throw error;
      }
      if (isClaimed(file)) return false;
      takeAway(file, own);
    }
  } finally {
    fs.rmSync(own, { force: true });
  }
}

/** Takes a claim away whose process is gone; what another has put in its place meanwhile is put back. */
function takeAway(file, own) {
  const old = `${own}.old`;
  try {
    fs.renameSync(file, old);
  } catch (error) {
    if (error.code === 'ENOENT') return;
    throw error;
  }
  try {
    if (isClaimed(old)) fs.linkSync(old, file);
  } finally {
    fs.rmSync(old, { force: true });
  }
}

/** Whether the process that wrote this claim still runs. */
export function isClaimed(file) {
  try {
    return sameProcess(JSON.parse(fs.readFileSync(file, 'utf8')));
  } catch {
    return false;
  }
}
