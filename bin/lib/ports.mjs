import crypto from 'node:crypto';
import net from 'node:net';
import { Failure } from './failure.mjs';

/** The simulated shops, each with its place after the web's port. */
export const SHOPS = { pennyquay: 2, broadmere: 4, plainfront: 5, loopstall: 6 };

/** Whether something could listen on this loopback port now. */
export function portIsFree(port) {
  return new Promise((resolve) => {
    const server = net.createServer();
    server.once('error', () => resolve(false));
    server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
  });
}

/** Fails with a sentence that names the first port in use. `wanted`: [[name, port], …]. */
export async function needPorts(wanted) {
  for (const [name, port] of wanted) {
    if (!(await portIsFree(port))) {
      throw new Failure(
        `port ${port} (${name}) is in use by another program. Stop that one, or start on other ports: bin/start --port ${port + 100}`,
      );
    }
  }
}

/** Free ports for the simulated shops of these names. */
export const freeShopPorts = async (names = Object.keys(SHOPS)) =>
  Object.fromEntries(await Promise.all(names.map(async (name) => [name, await freePort()])));

/** Below the ports that systems give to outgoing connections (32768 and up on Linux, 49152 and up elsewhere). */
const OWN_PORTS = { from: 12_000, to: 32_000 };

/**
 * A port that is free now, at random. Not one that the system would pick for us: the next outgoing connection of any process could take
 * that before what is started on it listens.
 */
export async function freePort() {
  for (let tries = 0; tries < 100; tries += 1) {
    const port = crypto.randomInt(OWN_PORTS.from, OWN_PORTS.to);
    if (await portIsFree(port)) return port;
  }
  throw new Failure(`none of 100 ports between ${OWN_PORTS.from} and ${OWN_PORTS.to} is free`);
}
