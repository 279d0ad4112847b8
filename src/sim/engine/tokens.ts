import crypto from 'node:crypto';
import type http from 'node:http';
import { json, type Answer } from './exchange';
import { countedUntil, type Limit } from './limit';
import type { Table } from './records';
import type { World } from './world';

/** A token that a shop gave to a program. */
export interface Token {
  readonly account: string;
  readonly kind: 'access' | 'refresh';
  readonly until: number;
  /** The same for all that came of one consent. */
  readonly grant: string;
  readonly scopes: readonly string[];
  readonly region: string | null;
}

export const tokensOf = (world: World): Table<Token> => world.records.table<Token>('tokens');

export function giveToken(world: World, token: Token): string {
  const text = crypto.randomBytes(24).toString('base64url');
  tokensOf(world).put(text, token);
  return text;
}

/** How a shop words a problem. */
export type Say = (problem: string, message: string, more?: Record<string, unknown>) => unknown;

/** The token that a request carries, of those that may make one more request now; or how it is turned away. */
export function admit(
  request: http.IncomingMessage,
  world: World,
  limit: Limit,
  say: Say,
): { readonly token: Token } | Answer {
  const text = /^Bearer (\S+)$/.exec(request.headers.authorization ?? '')?.[1] ?? '';
  const tokens = tokensOf(world);
  if (tokens.get(text) && world.faults.take('endTokens')) tokens.drop(text);
  const token = tokens.get(text);
  if (!token || token.kind !== 'access' || token.until < world.now())
    return json(401, say('token', 'This token has run out or is not known.'));
  const waitMs = limit.take(text);
  if (waitMs === 0) {
    world.taken += 1;
    countedUntil.set(request, world.now() + limit.windowMs);
    return { token };
  }
  world.tooMany += 1;
  const message = `No more than ${limit.most} requests each ${limit.windowMs / 1000} s, please.`;
  return json(429, say('pace', message), { 'retry-after': String(Math.ceil(waitMs / 1000)) });
}

/** How a token is turned away that may not do something just now; null where it may. */
export const forbidden = (world: World, token: Token, scope: string, say: Say): Answer | null =>
  token.scopes.includes(scope) && !world.faults.now.takenScopes.includes(scope)
    ? null
    : json(403, say('scope', `This token may not do that: it lacks ${scope}.`, { lacks: scope }));
