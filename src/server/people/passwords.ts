import { hash, verify } from '@node-rs/argon2';
import PQueue from 'p-queue';
import { TypicaError } from '@/core/errors';
import { processWide } from '../process-wide';

/** Passwords that are hashed at once, each for about 30 ms on a thread of Node's pool, and that may wait. */
const passwords = processWide('passwords', () => new PQueue({ concurrency: 2, timeout: 30_000 }));
const MAX_WAITING = 200;

function queued<T>(work: () => Promise<T>): Promise<T> {
  if (passwords.size >= MAX_WAITING)
    throw new TypicaError('unavailable', 'sign-in-busy', 'Too many people sign in just now; try again in a minute.');
  return passwords.add(work);
}

/** A password as it is kept. Throws `sign-in-busy`. */
export const hashPassword = (password: string): Promise<string> => queued(() => hash(password));

/** Whether a password is the one that was kept. Throws `sign-in-busy`. */
export const passwordMatches = (kept: string, password: string): Promise<boolean> =>
  queued(() => verify(kept, password));
