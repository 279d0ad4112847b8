import { AsyncLocalStorage } from 'node:async_hooks';
import pino from 'pino';

/** What all lines of one request or job carry: its id, and whose it is. */
export interface LogScope {
  readonly request?: string;
  readonly job?: string;
  readonly workspace?: string;
}

const holder = globalThis as { typicaLogScope?: AsyncLocalStorage<LogScope> };
const scope = (holder.typicaLogScope ??= new AsyncLocalStorage<LogScope>());

/** The process's log: a line of JSON each, on standard error, with the ids of the request or job in whose course it was written. */
export const log = pino(
  {
    level: process.env.TYPICA_LOG ?? 'info',
    base: { pid: process.pid },
    timestamp: pino.stdTimeFunctions.isoTime,
    mixin: () => scope.getStore() ?? {},
    serializers: { err: pino.stdSerializers.errWithCause },
    redact: ['password', 'token', 'authorization', 'cookie'],
  },
  pino.destination({ fd: 2, sync: true }),
);

export const inLogScope = <T>(ids: LogScope, work: () => T): T => scope.run({ ...scope.getStore(), ...ids }, work);
