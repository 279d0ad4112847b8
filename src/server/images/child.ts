import { spawn } from 'node:child_process';
import path from 'node:path';
import { TypicaError } from '@/core/errors';
import type { Derivation } from '@/core/findings/remedy';
import { watch } from '../processes/limits';
import { shutIn } from '../processes/sandbox';
import { programOf } from '../studio/folder';
import { imageRoom } from './image-room';
import type { IngestResult } from './ingest';
import { INGEST_MEMORY_MB, INGEST_SECONDS, INGEST_SMALL_MB } from './limits';

const refusal = (code: string, message: string, fields: Record<string, unknown> = {}) =>
  new TypicaError('invalid', code, message, fields);

export interface IngestOptions {
  readonly derivation?: Derivation | null;
  readonly seconds?: number;
  readonly memoryMb?: number;
  /** What it may use at first; most files need no more. */
  readonly smallMb?: number;
  readonly program?: string;
  readonly signal?: AbortSignal;
  /** Whose file it is: who has one being read leaves room for others. */
  readonly owner?: string;
}

/** Text of an answer that is read; it is a few kilobytes. */
const MAX_ANSWER = 4 * 1024 * 1024;

/**
 * Looks at a file in a process of its own, shut in with the file's folder, which it may read, and `folder`, where it leaves what it makes, which is ended when it takes too long or too much: a decoder deep in
 * native code cannot be stopped from within. It gets little memory at first; a file that needs more is looked at again when there is room for it.
 * Throws the reason for refusal; whatever happens in there, the caller lives on.
 */
export async function ingestInChild(file: string, folder: string, options: IngestOptions = {}): Promise<IngestResult> {
  const { memoryMb = INGEST_MEMORY_MB, smallMb = Math.min(INGEST_SMALL_MB, memoryMb) } = options;
  try {
    return await lookOnce(file, folder, { ...options, memoryMb: smallMb });
  } catch (error) {
    if (smallMb >= memoryMb || !(error instanceof TypicaError) || error.code !== 'artwork-too-heavy') throw error;
  }
  return lookOnce(file, folder, { ...options, memoryMb });
}

async function lookOnce(
  file: string,
  folder: string,
  {
    derivation,
    seconds = INGEST_SECONDS,
    memoryMb = INGEST_MEMORY_MB,
    program = programOf('ingest'),
    signal,
    owner,
  }: IngestOptions,
): Promise<IngestResult> {
  const release = await imageRoom.take(memoryMb * 1024 * 1024, signal, owner);
  try {
    return await look(file, folder, { derivation, seconds, memoryMb, program, signal });
  } finally {
    release();
  }
}

interface Answer {
  readonly result?: IngestResult;
  readonly refusal?: { readonly code: string; readonly message: string; readonly fields: Record<string, unknown> };
}

/** What the reader said; null when that is no answer. */
function readAnswer(out: string): Answer | null {
  try {
    const answer = JSON.parse(out) as Answer;
    return answer.result || answer.refusal ? answer : null;
  } catch {
    return null;
  }
}

async function look(
  file: string,
  folder: string,
  {
    derivation,
    seconds,
    memoryMb,
    program,
    signal,
  }: Required<Pick<IngestOptions, 'seconds' | 'memoryMb' | 'program'>> & Pick<IngestOptions, 'derivation' | 'signal'>,
): Promise<IngestResult> {
  const places = { readOnly: [program, file].map((place) => path.dirname(path.resolve(place))), writable: [folder] };
  // It gives back what a step needed before the next begins: what lies about counts as well.
  const node = [
    '--expose-gc',
    '--max-semi-space-size=1',
    `--max-old-space-size=${Math.round(memoryMb * 0.6)}`,
    program,
    file,
    folder,
  ];
  // Its environment holds no secret and no address of ours.
  const { command, args, env } = shutIn(places, [...node, ...(derivation ? [JSON.stringify(derivation)] : [])]);
  const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'], env: env as NodeJS.ProcessEnv });
  let [out, err] = ['', ''];
  child.stdout.on('data', (part: Buffer) => {
    if (out.length < MAX_ANSWER) out += part.toString();
  });
  child.stderr.on('data', (part: Buffer) => (err = (err + part.toString()).slice(-2000)));
  const kill = () => child.kill('SIGKILL');
  const watched = child.pid ? watch(child.pid, { seconds, memoryMb }, kill) : null;
  signal?.addEventListener('abort', kill, { once: true });
  try {
    const code = await new Promise<number | null>((resolve, reject) => {
      child.once('error', reject);
      child.once('close', resolve);
    });
    signal?.throwIfAborted();
    if (watched?.ended === 'time')
      throw refusal(
        'artwork-too-slow',
        `This file took longer than ${seconds} seconds to read and was stopped. Simplify it, or export it as PNG.`,
      );
    if (watched?.ended === 'memory')
      throw refusal(
        'artwork-too-heavy',
        `This file needed more than ${memoryMb} MB to read and was stopped. Export it smaller, or as PNG.`,
      );
    const answer = code === 0 ? readAnswer(out) : null;
    // Only what the reader says itself is the file's fault: it may have been ended from outside, or never have begun.
    if (!answer)
      throw new TypicaError(
        'unavailable',
        'reader-stopped',
        'The program that reads this file stopped in the middle; it is tried again.',
        { code, reader: err.split('\n')[0] },
      );
    if (answer.refusal) throw refusal(answer.refusal.code, answer.refusal.message, answer.refusal.fields);
    return answer.result!;
  } finally {
    watched?.stop();
    signal?.removeEventListener('abort', kill);
  }
}
