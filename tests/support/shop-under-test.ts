import crypto from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import sharp from 'sharp';
import type { Channel, ChannelHooks, ChannelSecrets, Connection } from '@/ports/channel';
import type { ChannelUnderTest, FaultName } from '@/ports/conformance/channel';
import type { SampleAnswers } from '@/ports/conformance/channel-sample';
import type { RunningShop } from '@/sim/engine/server';
import { tokensOf } from '@/sim/engine/tokens';

export const REDIRECT = 'http://127.0.0.1:1/back';

/** A folder for a shop's data, gone with the machine's temporary files. */
export const shopFolder = (): string => fs.mkdtempSync(path.join(os.tmpdir(), 'typica-shop-'));

/** Consent, as the shop's owner gives it in the browser. Gives what comes back to the program. */
export async function consent(
  channel: Channel,
  verifier: string,
  { answer = 'allow', region = null as string | null } = {},
): Promise<URLSearchParams> {
  const challenge = crypto.createHash('sha256').update(verifier).digest('base64url');
  const { connecting } = channel;
  if (connecting.kind !== 'consent') throw new Error('this channel asks for keys');
  const ask = new URL(connecting.authorizeUrl({ state: 'st', challenge, redirectUri: REDIRECT, region }));
  const page = await fetch(ask);
  if (page.status !== 200) throw new Error(`the consent page says ${page.status}`);
  const form = new URLSearchParams(ask.search);
  form.set('answer', answer);
  const given = await fetch(`${ask.origin}/consent`, { method: 'POST', body: form, redirect: 'manual' });
  return new URL(given.headers.get('location')!).searchParams;
}

/** Connects by consent, as its owner would. */
export async function connectByConsent(channel: Channel, region: string | null = null): Promise<Connection> {
  const verifier = 'v'.repeat(43);
  const code = (await consent(channel, verifier, { region })).get('code')!;
  if (channel.connecting.kind !== 'consent') throw new Error('this channel asks for keys');
  return channel.connecting.exchange({ code, verifier, redirectUri: REDIRECT, region });
}

/** Hooks of clients that share one store's keys, as workers share its row. */
function sharedHooks(first: ChannelSecrets): { hooks: ChannelHooks; renewals: () => number } {
  let held = first;
  let renewals = 0;
  let queue: Promise<unknown> = Promise.resolve();
  const hooks: ChannelHooks = {
    takeTurn: async () => ({ answered: async () => {} }),
    slowDown: (retryAfterMs) => delay(retryAfterMs),
    renew(stale, ask) {
      const next = queue.then(async () => {
        if (JSON.stringify(stale) !== JSON.stringify(held)) return held;
        renewals += 1;
        held = await ask(stale);
        return held;
      });
      queue = next.catch(() => {});
      return next;
    },
  };
  return { hooks, renewals: () => renewals };
}

/** Square pictures, the first on white, that every shop takes. */
export const samplePictures = async (): Promise<Uint8Array[]> =>
  Promise.all(
    ['#345', '#534', '#453'].map((color) =>
      sharp({ create: { width: 1500, height: 1500, channels: 3, background: '#fff' } })
        .composite([{ input: { create: { width: 700, height: 700, channels: 3, background: color } } }])
        .jpeg()
        .toBuffer(),
    ),
  );

/** A simulated shop with two clients of one of its sellers, as conformance wants it. */
export function underTest(
  shop: RunningShop,
  channel: Channel,
  { secrets }: Connection,
  pictures: readonly Uint8Array[],
  own: {
    readonly answers?: SampleAnswers;
    readonly scope: string | null;
    readonly revoke?: () => Promise<void>;
    readonly renews?: false;
  },
): ChannelUnderTest {
  const { hooks, renewals } = sharedHooks(secrets);
  const { world, faults } = shop;
  Object.assign(faults, { takenScopes: [], clockOffMs: 0 });
  const counted: FaultName[] = [];
  const expire = () => {
    for (const text of Object.values(secrets)) {
      const token = tokensOf(world).get(text);
      if (token?.kind === 'access') tokensOf(world).put(text, { ...token, until: 0 });
    }
  };
  return {
    channel,
    client: channel.open(secrets, hooks),
    second: channel.open(secrets, hooks),
    renewals,
    answers: own.answers,
    scope: own.scope,
    revoke: own.revoke ?? (() => channel.revoke(secrets)),
    count: async () => world.articles.all().length,
    fault(name, times) {
      faults[name] = times;
      counted.push(name);
    },
    faultsLeft: () => counted.reduce((sum, name) => sum + faults[name], 0),
    clockOff: (ms) => (faults.clockOffMs = ms),
    takeScopes: (scopes) => (faults.takenScopes = scopes),
    ...(own.renews === false ? {} : { expire }),
    passTime: () => world.forward(120_000),
    retitle(externalId, title) {
      const article = world.articles.get(externalId)!;
      world.articles.put(externalId, { ...article, title, changedAt: world.now() });
    },
    pictures,
  };
}
