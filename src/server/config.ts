import fs from 'node:fs';
import { TypicaError } from '@/core/errors';
import { ownEntry } from '@/core/own-entry';

/** What the environment says, parsed; no secrets in it. */
export interface Config {
  readonly home: string;
  /** Where a browser finds us, without a slash at the end. */
  readonly origin: string;
  readonly databaseUrl: string;
  /** Connections that one process keeps to the database. */
  readonly poolSize: number;
  readonly keyFile: string;
  /** Whether the operator's own proxy stands in front and says, in X-Forwarded-For, where requests come from. */
  readonly behindProxy: boolean;
  readonly quotas: Quotas;
  /** Accounts that may be made from one place in an hour. */
  readonly signUpsPerHour: number;
  /** Where exchange rates come from by themselves; null: nowhere. */
  readonly ratesUrl: string | null;
  /** Jobs that a worker does at once. */
  readonly lanes: number;
  /** How often shops are asked what changed, s; 0: never without being asked. */
  readonly lookSeconds: number;
  /** How many times faster than real the shops' clocks run: more than once only where all of them are simulated. */
  readonly shopPace: number;
  /** Where the shops of each channel are; one without an address cannot be connected. */
  readonly channels: {
    readonly pennyquay: OAuthShop;
    readonly broadmere: Shop | null;
    readonly plainfront: Shop | null;
    readonly loopstall: OAuthShop | null;
  };
}

interface Shop {
  readonly url: string;
}
interface OAuthShop extends Shop {
  readonly clientId: string;
}

/** The most that one workspace may have; the operator sets them. */
export interface Quotas {
  /** Of files that were uploaded. */
  readonly bytes: number;
  readonly files: number;
  /** Of print files and pictures that were made; what is over goes, the oldest first. */
  readonly renderingBytes: number;
  /** Waiting or running. */
  readonly jobs: number;
  readonly products: number;
  /** Open event streams. */
  readonly streams: number;
  readonly tokens: number;
}

/** A whole number of the environment, or what holds without it. Throws `config-wrong`. */
function count(env: NodeJS.ProcessEnv, name: string, otherwise: number): number {
  const text = ownEntry(env, name);
  if (text === undefined || text === '') return otherwise;
  if (!/^\d{1,15}$/.test(text))
    throw new TypicaError('bug', 'config-wrong', `${name} must be a whole number; it is “${text}”.`);
  return Number(text);
}

function need(env: NodeJS.ProcessEnv, name: string): string {
  const value = ownEntry(env, name);
  if (!value) throw new TypicaError('bug', 'config-missing', `The environment has no ${name}; bin/start sets it.`);
  return value;
}

const shopAt = (url: string | undefined): Shop | null => (url ? { url: url.replace(/\/$/, '') } : null);
const clientAt = (url: string | undefined, clientId = 'typica'): OAuthShop | null => {
  const shop = shopAt(url);
  return shop && { ...shop, clientId };
};

/** Reads the configuration. Pure but for its argument. Throws `config-missing`. */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  return {
    home: need(env, 'TYPICA_HOME'),
    origin: need(env, 'TYPICA_ORIGIN').replace(/\/$/, ''),
    databaseUrl: need(env, 'TYPICA_DATABASE_URL'),
    poolSize: count(env, 'TYPICA_POOL_SIZE', 12),
    keyFile: need(env, 'TYPICA_KEY_FILE'),
    behindProxy: env.TYPICA_BEHIND_PROXY === '1',
    quotas: {
      bytes: count(env, 'TYPICA_QUOTA_BYTES', 200e9),
      renderingBytes: count(env, 'TYPICA_QUOTA_RENDERING_BYTES', 50e9),
      files: count(env, 'TYPICA_QUOTA_FILES', 50_000),
      jobs: count(env, 'TYPICA_QUOTA_JOBS', 200_000),
      products: count(env, 'TYPICA_QUOTA_PRODUCTS', 50_000),
      streams: count(env, 'TYPICA_QUOTA_STREAMS', 50),
      tokens: count(env, 'TYPICA_QUOTA_TOKENS', 100),
    },
    signUpsPerHour: count(env, 'TYPICA_SIGN_UPS_PER_HOUR', 20),
    ratesUrl: env.TYPICA_RATES_URL?.replace(/\/$/, '') || null,
    lookSeconds: count(env, 'TYPICA_LOOK_SECONDS', 60),
    lanes: Math.max(2, count(env, 'TYPICA_LANES', 6)),
    shopPace: Math.max(1, count(env, 'TYPICA_SHOP_PACE', 1)),
    channels: {
      pennyquay: {
        url: need(env, 'TYPICA_PENNYQUAY_URL').replace(/\/$/, ''),
        clientId: env.TYPICA_PENNYQUAY_CLIENT ?? 'typica',
      },
      broadmere: shopAt(env.TYPICA_BROADMERE_URL),
      plainfront: shopAt(env.TYPICA_PLAINFRONT_URL),
      loopstall: clientAt(env.TYPICA_LOOPSTALL_URL, env.TYPICA_LOOPSTALL_CLIENT),
    },
  };
}

/** The 32-byte key that seals stores' secrets. Read from its file, never from the environment, so that it is in no process list. */
export function readMasterKey(keyFile: string): Buffer {
  const key = Buffer.from(fs.readFileSync(keyFile, 'utf8').trim(), 'base64');
  if (key.length !== 32) throw new TypicaError('bug', 'key-invalid', `${keyFile} does not hold a key of 32 bytes.`);
  return key;
}
