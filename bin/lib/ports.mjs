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

/** A port that is free now, from the system. */
export function freePort() {
  return new Promise((resolve, reject) => {
    const server = net.createServer();
    server.once('error', reject);
    server.listen(0, '127.0.0.1', () => {
      const { port } = server.address();
      server.close(() => resolve(port));
    });
  });
}
