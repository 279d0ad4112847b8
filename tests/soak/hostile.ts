import http from 'node:http';
import { setTimeout as delay } from 'node:timers/promises';
import { residentMb } from '../../src/server/processes/limits';
import { complaint, hostileAccount, hostileRoutes, requestsFor, send } from '../support/hostile';
import { withStack } from './stack';

const MAX_STALL_MS = 250;
const MAX_GROWTH = 0.2;
const REST_MS = Number(process.env.SOAK_REST_SECONDS ?? 300) * 1000;
const ROUNDS = Number(process.env.SOAK_ROUNDS ?? 2);

/** Asks `/health` every 20 ms over a connection of its own, and keeps the longest answers. */
function watchHealth(origin: string) {
  const agent = new http.Agent({ keepAlive: true, maxSockets: 1 });
  const slowest: number[] = [];
  let stopped = false;
  const ask = () =>
    new Promise<void>((resolve) => {
      const began = performance.now();
      http
        .get(`${origin}/api/v1/health`, { agent }, (answer) => {
          answer.resume().on('end', () => {
            slowest.push(performance.now() - began);
            slowest.sort((a, b) => b - a).splice(20);
            resolve();
          });
        })
        .on('error', () => resolve());
    });
  const done = (async () => {
    while (!stopped) {
      await ask();
      await delay(20);
    }
  })();
  return async () => {
    stopped = true;
    await done;
    agent.destroy();
    return slowest;
  };
}

/** The same routes as they are meant to be used. */
async function goodInput(origin: string, token: string, known: Readonly<Record<string, string>>): Promise<void> {
  const paths = hostileRoutes()
    .filter(({ method }) => method === 'GET')
    .map((route) =>
      route.path.replace(/\[(\w+)\]/g, (_, name: string) =>
        name === 'id' ? (known[route.path.split('/')[1]!] ?? 'nosuch') : 'nosuch',
      ),
    );
  for (let round = 0; round < 10; round += 1)
    for (const one of paths) await send(origin, token, { method: 'GET', path: one, headers: {}, body: null });
}

/** Every route and every member of every body × a table of hostile values, while somebody else only asks whether the server is there. */
export default function hostile(): Promise<boolean> {
  return withStack(async ({ origin, webPid }, say) => {
    const { token, known } = await hostileAccount(origin);
    await goodInput(origin, token, known);
    const before = residentMb(webPid);
    const stop = watchHealth(origin);
    let [requests, faults] = [0, 0];
    for (let round = 0; round < ROUNDS; round += 1)
      for (const route of hostileRoutes())
        for (const request of requestsFor(route, known)) {
          requests += 1;
          const says = await send(origin, token, request).then(complaint, (error: Error) => error.message);
          if (!says) continue;
          faults += 1;
          say(`${request.method} ${request.path.slice(0, 100)} ${request.body?.().slice(0, 120) ?? ''}: ${says}`);
        }
    const slowest = await stop();
    const stalls = slowest.filter((ms) => ms > MAX_STALL_MS).length;
    await delay(REST_MS);
    await goodInput(origin, token, known);
    const after = residentMb(webPid);
    const grown = after / before - 1;
    const told = slowest.slice(0, 3).map((ms) => Math.round(ms));
    say(
      `soak hostile ${requests} requests, ${faults} wrong answers, ${stalls} stalls over ${MAX_STALL_MS} ms (slowest ${told.join(', ')} ms), ` +
        `web and its children ${Math.round(before)} MB before, ${Math.round(after)} MB after (${Math.round(grown * 100)} %)`,
    );
    return faults === 0 && stalls === 0 && grown <= MAX_GROWTH;
  });
}
