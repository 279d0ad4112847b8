import path from 'node:path';
import { diskBlobs } from '@/adapters/blobs/disk';
import { broadmere } from '@/adapters/broadmere/channel';
import { loopstall } from '@/adapters/loopstall/channel';
import { pennyquay } from '@/adapters/pennyquay/channel';
import { plainfront } from '@/adapters/plainfront/channel';
import { dailyRates } from '@/adapters/rates/daily';
import type { BlobFiles } from '@/ports/blobs';
import type { Channel } from '@/ports/channel';
import { systemChance, systemClock, type Chance, type Clock } from '@/ports/clock';
import type { RateFeed } from '@/ports/rate-feed';
import { readConfig, readMasterKey, type Config } from './config';
import { Pools, type Database } from './db/pool';

/** Everything that server code needs from the outside. This is the only place where pools and clients are made. */
export interface Context {
  readonly config: Config;
  readonly pools: Pools;
  readonly db: Database;
  readonly files: BlobFiles;
  readonly clock: Clock;
  readonly chance: Chance;
  readonly channels: ReadonlyMap<string, Channel>;
  /** Null where rates are typed alone. */
  readonly rateFeed: RateFeed | null;
  readonly masterKey: Buffer;
}

/** The blobs of a home alone: what a thread needs that only reads them. */
export const blobFilesOf = (home: string): BlobFiles => diskBlobs(path.join(home, 'blobs'));

/** A channel whose shops' clocks run faster than real. */
const paced = (channel: Channel, pace: number): Channel =>
  pace === 1 ? channel : { ...channel, about: { ...channel.about, rate: { ...channel.about.rate, pace } } };

function channelsOf({ channels, shopPace: pace }: Config) {
  const { pennyquay: at, broadmere: mass, plainfront: own, loopstall: clips } = channels;
  const all = [
    pennyquay(at),
    ...(mass ? [broadmere({ ...mass, pace })] : []),
    ...(own ? [plainfront(own)] : []),
    ...(clips ? [loopstall(clips)] : []),
  ];
  return new Map<string, Channel>(all.map((channel) => [channel.about.code, paced(channel, pace)]));
}

export function makeContext(env: NodeJS.ProcessEnv = process.env, over: Partial<Context> = {}): Context {
  const config = readConfig(env);
  const pools = over.pools ?? new Pools(config.databaseUrl, { connections: config.poolSize });
  const channels = channelsOf(config);
  return {
    config,
    pools,
    db: pools.db,
    files: blobFilesOf(config.home),
    clock: systemClock,
    chance: systemChance,
    channels,
    rateFeed: config.ratesUrl === null ? null : dailyRates(config.ratesUrl),
    masterKey: readMasterKey(config.keyFile),
    ...over,
  };
}

const holder = globalThis as { typicaContext?: Context };

/** The web process's one context; Next may load this module more than once. */
export const context = (): Context => (holder.typicaContext ??= makeContext());
