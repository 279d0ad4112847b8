import { spawn } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { TypicaError } from '@/core/errors';
import type { Derivation } from '@/core/findings/remedy';
import type { IngestResult } from './ingest';
import { INGEST_MEMORY_MB, INGEST_SECONDS } from './limits';

const refusal = (code: string, message: string, fields: Record<string, unknown> = {}) =>
  new TypicaError('invalid', code, message, fields);

/** Resident memory of a process in MB by the kernel's own count, or 0 when it is gone. */
function residentMb(pid: number): number {
  try {
    return (Number(fs.readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096) / 1024 / 1024;
  } catch {
    return 0;
  }
}

/**
 * Looks at a file in a process of its own, which is ended when it takes too long or too much: a decoder deep in native code cannot be
 * stopped from within. Throws the reason for refusal; whatever happens in there, the caller lives on.
 */
export async function ingestInChild(
  file: string,
  folder: string,
  {
    derivation = null as Derivation | null,
    seconds = INGEST_SECONDS,
    memoryMb = INGEST_MEMORY_MB,
    program = path.join(process.cwd(), 'dist', 'ingest.mjs'),
  } = {},
): Promise<IngestResult> {
  // Its environment holds no secret and no address of ours.
  const child = spawn(
    process.execPath,
    ['--max-old-space-size=512', program, file, folder, ...(derivation ? [JSON.stringify(derivation)] : [])],
    {
      stdio: ['ignore', 'pipe', 'pipe'],
      env: { PATH: process.env.PATH, NODE_ENV: 'production' },
    },
  );
  let [out, err] = ['', ''];
  child.stdout.on('data', (part: Buffer) => (out += part.toString()));
  child.stderr.on('data', (part: Buffer) => (err = (err + part.toString()).slice(-2000)));
  let ended: 'time' | 'memory' | null = null;
  const end = (why: 'time' | 'memory') => {
    ended = why;
    child.kill('SIGKILL');
  };
  const timer = setTimeout(() => end('time'), seconds * 1000);
  const watch = setInterval(() => {
    if (child.pid && residentMb(child.pid) > memoryMb) end('memory');
  }, 100);
  try {
    const code = await new Promise<number | null>((resolve, reject) => {
      child.once('error', reject);
      child.once('close', resolve);
    });
    if (ended === 'time')
      throw refusal(
        'artwork-too-slow',
        `This file took longer than ${seconds} seconds to read and was stopped. Simplify it, or export it as PNG.`,
      );
    if (ended === 'memory')
      throw refusal(
        'artwork-too-heavy',
        `This file needed more than ${memoryMb} MB to read and was stopped. Export it smaller, or as PNG.`,
      );
    if (code !== 0)
      throw refusal(
        'artwork-damaged',
        'This file made the reader stop in the middle; it is damaged. Export it again.',
        { reader: err.split('\n')[0] },
      );
    const answer = JSON.parse(out) as {
      result?: IngestResult;
      refusal?: { code: string; message: string; fields: Record<string, unknown> };
    };
    if (answer.refusal) throw refusal(answer.refusal.code, answer.refusal.message, answer.refusal.fields);
    return answer.result!;
  } finally {
    clearTimeout(timer);
    clearInterval(watch);
  }
}
