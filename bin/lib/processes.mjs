import { spawn } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';

/** Kernel start time of a process: with the pid it names one process for good, since pids are used again. */
function startTime(pid) {
  try {
    const stat = fs.readFileSync(`/proc/${pid}/stat`, 'utf8');
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19];
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
  const save = () =>
    fs.writeFileSync(
      file,
      JSON.stringify(children.map(({ name, pid, started, graceMs }) => ({ name, pid, started, graceMs }))),
    );
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
    /** Takes in a process started elsewhere (the database) to be stopped with the rest. */
    adopt(name, pid, graceMs = 20_000) {
      children.push({ name, pid, started: startTime(pid), graceMs });
      save();
    },
    /** Stops everything, the last started first. */
    async stop() {
      for (const entry of [...children].reverse()) await stopOne(entry, entry.graceMs);
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

/** Takes `file` as this process's claim on a folder; false when a living process holds it. */
export function claim(file) {
  try {
    if (sameProcess(JSON.parse(fs.readFileSync(file, 'utf8')))) return false;
  } catch {
    // no claim, or one that cannot be read: it is ours
  }
  fs.writeFileSync(file, JSON.stringify({ pid: process.pid, started: startTime(process.pid) }));
  return true;
}

/** Whether the process that wrote this claim still runs. */
export function isClaimed(file) {
  try {
    return sameProcess(JSON.parse(fs.readFileSync(file, 'utf8')));
  } catch {
    return false;
  }
}
