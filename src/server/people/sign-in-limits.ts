import crypto from 'node:crypto';
import { setTimeout as delay } from 'node:timers/promises';
import { TypicaError } from '@/core/errors';
import type { Context } from '../context';

/** Wrong passwords for one address from one place that cost nothing but the answer. */
const FREE_PAIR = 5;
/** Wrong passwords from one place, for whatever addresses. */
const FREE_CLIENT = 30;
/** Wrong passwords for one address from anywhere, after which answers come slower. */
const FREE_ADDRESS = 20;
const LONGEST_WAIT_S = 15 * 60;
const SLOWEST_ANSWER_MS = 4000;

const hashOf = (email: string): string => crypto.createHash('sha256').update(email).digest('hex');

/** How long after the last of `failures` the next try is looked at: 2, 4, 8 … seconds once the free ones are used up. */
export const waitSeconds = (failures: number, free: number): number =>
  failures < free ? 0 : Math.min(LONGEST_WAIT_S, 2 ** (failures - free + 1));

interface Tries {
  readonly n: number;
  readonly ageS: number | null;
}

/** A try to sign in that was let through. */
export interface SignInTry {
  /** The try succeeded: it and the failures before it from the same place no longer count. */
  succeeded(): Promise<void>;
}

/**
 * Notes a try to sign in before it is looked at, so that many at once do not pass each other, and throws `sign-in-paused` when too many came
 * from this place. Somebody else's wrong passwords, from other places, never refuse a person: they only make the answer slower.
 */
export async function beginSignIn(ctx: Context, email: string, client: string): Promise<SignInTry> {
  const emailHash = hashOf(email);
  const { insertId } = await ctx.db.run('INSERT INTO sign_in_try (email_hash, client) VALUES (?, ?)', [
    emailHash,
    client,
  ]);
  const before = async (where: string, values: readonly string[]): Promise<Tries> =>
    (await ctx.db.row<Tries>(
      `SELECT COUNT(*) AS n, CAST(TIMESTAMPDIFF(MICROSECOND, MAX(tried_at), UTC_TIMESTAMP(3)) / 1000000 AS DOUBLE) AS ageS
       FROM sign_in_try WHERE ${where} AND id < ? AND tried_at > UTC_TIMESTAMP(3) - INTERVAL 1 HOUR`,
      [...values, insertId],
    ))!;
  const known = await ctx.db.row('SELECT 1 AS one FROM sign_in_place WHERE email_hash = ? AND client = ?', [
    emailHash,
    client,
  ]);
  const [pair, all, address] = await Promise.all([
    before('email_hash = ? AND client = ?', [emailHash, client]),
    before('client = ?', [client]),
    before('email_hash = ? AND client <> ?', [emailHash, client]),
  ]);
  const waitS = Math.max(
    waitSeconds(pair.n, FREE_PAIR) - (pair.ageS ?? Infinity),
    // Who has signed in from here before is not kept out by what others in the same house try.
    known ? 0 : waitSeconds(all.n, FREE_CLIENT) - (all.ageS ?? Infinity),
  );
  if (waitS > 0) {
    // A try that was not looked at is not counted, or waiting would never end.
    await ctx.db.run('DELETE FROM sign_in_try WHERE id = ?', [insertId]);
    throw new TypicaError(
      'too-many',
      'sign-in-paused',
      `Too many wrong passwords from here. Wait ${waitS < 90 ? `${Math.ceil(waitS)} seconds` : `${Math.ceil(waitS / 60)} minutes`} and try again.`,
      { retryAfterMs: Math.ceil(waitS * 1000) },
    );
  }
  if (address.n >= FREE_ADDRESS) await delay(Math.min(SLOWEST_ANSWER_MS, 250 * (address.n - FREE_ADDRESS + 1)));
  return {
    succeeded: async () => {
      await ctx.db.run('DELETE FROM sign_in_try WHERE email_hash = ? AND client = ?', [emailHash, client]);
      await ctx.db.run(
        'INSERT INTO sign_in_place (email_hash, client) VALUES (?, ?) ON DUPLICATE KEY UPDATE signed_in_at = UTC_TIMESTAMP(3)',
        [emailHash, client],
      );
    },
  };
}

/** Notes that an account is made from a place. Throws `sign-up-paused` when too many were in the last hour. */
export async function beginSignUp(ctx: Context, client: string): Promise<void> {
  const { insertId } = await ctx.db.run('INSERT INTO sign_up (client) VALUES (?)', [client]);
  const before = await ctx.db.row<{ n: number }>(
    'SELECT COUNT(*) AS n FROM sign_up WHERE client = ? AND id < ? AND made_at > UTC_TIMESTAMP(3) - INTERVAL 1 HOUR',
    [client, insertId],
  );
  if ((before?.n ?? 0) < ctx.config.signUpsPerHour) return;
  await ctx.db.run('DELETE FROM sign_up WHERE id = ?', [insertId]);
  throw new TypicaError(
    'too-many',
    'sign-up-paused',
    'Too many accounts were made from here in the last hour. Wait an hour and try again.',
    { retryAfterMs: 3_600_000 },
  );
}

/** Forgets what no longer counts. */
export async function dropOldTries(ctx: Context): Promise<void> {
  await ctx.db.run('DELETE FROM sign_in_try WHERE tried_at < UTC_TIMESTAMP(3) - INTERVAL 1 DAY LIMIT 10000');
  await ctx.db.run('DELETE FROM sign_in_place WHERE signed_in_at < UTC_TIMESTAMP(3) - INTERVAL 180 DAY LIMIT 10000');
  await ctx.db.run('DELETE FROM sign_up WHERE made_at < UTC_TIMESTAMP(3) - INTERVAL 1 DAY LIMIT 10000');
  await ctx.db.run('DELETE FROM session WHERE expires_at < UTC_TIMESTAMP(3) LIMIT 10000');
}
