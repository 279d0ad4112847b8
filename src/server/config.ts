import fs from 'node:fs';
import { TypicaError } from '@/core/errors';

/** What the environment says, parsed; no secrets in it. */
export interface Config {
  readonly home: string;
  /** Where a browser finds us, without a slash at the end. */
  readonly origin: string;
  readonly databaseUrl: string;
  readonly keyFile: string;
  readonly channels: { readonly pennyquay: { readonly url: string; readonly clientId: string } };
}

function need(env: NodeJS.ProcessEnv, name: string): string {
  const value = env[name];
  if (!value) throw new TypicaError('bug', 'config-missing', `The environment has no ${name}; bin/start sets it.`);
  return value;
}

/** Reads the configuration. Pure but for its argument. Throws `config-missing`. */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  return {
    home: need(env, 'TYPICA_HOME'),
    origin: need(env, 'TYPICA_ORIGIN').replace(/\/$/, ''),
    databaseUrl: need(env, 'TYPICA_DATABASE_URL'),
    keyFile: need(env, 'TYPICA_KEY_FILE'),
    channels: {
      pennyquay: {
        url: need(env, 'TYPICA_PENNYQUAY_URL').replace(/\/$/, ''),
        clientId: env.TYPICA_PENNYQUAY_CLIENT ?? 'typica',
      },
    },
  };
}

/** The 32-byte key that seals stores' secrets. Read from its file, never from the environment, so that it is in no process list. */
export function readMasterKey(keyFile: string): Buffer {
  const key = Buffer.from(fs.readFileSync(keyFile, 'utf8').trim(), 'base64');
  if (key.length !== 32) throw new TypicaError('bug', 'key-invalid', `${keyFile} does not hold a key of 32 bytes.`);
  return key;
}
