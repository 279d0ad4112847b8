import crypto from 'node:crypto';
import http from 'node:http';
import type { AddressInfo } from 'node:net';

/** Misbehavior on request: what tests and the curious switch on. */
export interface RateFaults {
  /** The next requests are answered 503. */
  unavailable: number;
  /** Milliseconds that every answer waits. */
  slowMs: number;
  /** Every rate to US dollars is so many times what it should be: a slip of the decimal point. */
  usdTimes: number;
  /** The answer is a page that asks for patience, not rates. */
  page: boolean;
  /** The answer never ends. */
  endless: boolean;
}

const noFaults = (): RateFaults => ({ unavailable: 0, slowMs: 0, usdTimes: 1, page: false, endless: false });

/** The day from which the made-up rates walk, and what one pound was then. */
const BEGIN = '2026-11-02';
const PAIRS: readonly (readonly [from: string, to: string, rate: number])[] = [
  ['GBP', 'USD', 1.312],
  ['GBP', 'EUR', 1.146],
  ['GBP', 'CAD', 1.836],
  ['GBP', 'AUD', 2.014],
  ['GBP', 'JPY', 201.4],
  ['GBP', 'SEK', 12.61],
];
const DAY_MS = 86_400_000;

/** The last working day up to a time: rates are made on those alone. */
export function workingDay(now: Date): string {
  let at = Date.parse(now.toISOString().slice(0, 10));
  while ([0, 6].includes(new Date(at).getUTCDay())) at -= DAY_MS;
  return new Date(at).toISOString().slice(0, 10);
}

/** A made-up rate on a day: up to 2 % around what it began with, the same whenever it is asked for. */
function rateOn(pair: string, begin: number, day: string): string {
  const days = Math.round((Date.parse(day) - Date.parse(BEGIN)) / DAY_MS);
  const chance = (salt: string) =>
    crypto.createHash('sha256').update(`${pair}${salt}`).digest().readUInt16BE(0) / 65_536;
  const wave = 0.015 * (Math.sin(days / 17 + chance('') * 6.3) - Math.sin(chance('') * 6.3));
  const rate = begin * (1 + wave + (days === 0 ? 0 : 0.004 * (chance(day) - 0.5)));
  return rate.toPrecision(5);
}

/** Starts a made-up publisher of exchange rates: once each working day, as CSV. */
export async function createRates({
  port,
  now = () => new Date(),
}: {
  /** 0 takes any free port. */
  readonly port: number;
  readonly now?: () => Date;
}): Promise<{ url: string; faults: RateFaults; close(): Promise<void> }> {
  const faults = noFaults();
  const server = http.createServer((request, response) => void answer(request, response));
  const tell = (response: http.ServerResponse, status: number, type: string, text: string) => {
    response.writeHead(status, { 'content-type': `${type}; charset=utf-8`, 'retry-after': '60' });
    response.end(text);
  };

  async function answer(request: http.IncomingMessage, response: http.ServerResponse): Promise<void> {
    const path = (request.url ?? '/').split('?')[0];
    if (path === '/health') return tell(response, 200, 'application/json', '{"ok":true}');
    if (path === '/control/faults' && request.method === 'POST') {
      let text = '';
      for await (const part of request) text += String(part);
      Object.assign(faults, JSON.parse(text));
      return tell(response, 200, 'application/json', JSON.stringify(faults));
    }
    if (path !== '/daily.csv') return tell(response, 404, 'text/plain', 'There is only /daily.csv here.');
    if (faults.slowMs > 0) await new Promise((resolve) => setTimeout(resolve, faults.slowMs));
    if (faults.unavailable > 0) {
      faults.unavailable -= 1;
      return tell(response, 503, 'text/plain', 'Closed for a moment.');
    }
    if (faults.page) return tell(response, 200, 'text/html', '<h1>We are mending this page.</h1>');
    const day = workingDay(now());
    const rates = PAIRS.map(([from, to, begin]) => [from, to, rateOn(from + to, begin, day)] as const);
    // One euro by way of the pound, so that the two ways from euros to dollars agree.
    const inPounds = (currency: string) => Number(rates.find(([, to]) => to === currency)![2]);
    const euro = ['EUR', 'USD', (inPounds('USD') / inPounds('EUR')).toPrecision(5)] as const;
    const rows = [...rates, euro].map(([from, to, rate]) => {
      return `${from},${to},${to === 'USD' && faults.usdTimes !== 1 ? (Number(rate) * faults.usdTimes).toPrecision(5) : rate},${day}`;
    });
    if (!faults.endless) return tell(response, 200, 'text/csv', `from,to,rate,date\n${rows.join('\n')}\n`);
    response.writeHead(200, { 'content-type': 'text/csv' });
    const more = () => {
      while (!response.destroyed) if (!response.write(`${rows.join('\n')}\n`)) return void response.once('drain', more);
    };
    more();
  }

  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    faults,
    close: () =>
      new Promise((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}
