import type http from 'node:http';
import type { Faults } from './faults';
import type { Ledger } from './ledger';

export interface World {
  readonly ledger: Ledger;
  readonly clients: { readonly [clientId: string]: string };
  readonly faults: Faults;
  readonly requestsPerSecond: number;
  /** Times of the last second's requests by token. */
  readonly recent: Map<string, number[]>;
  url: string;
  newId(prefix: string): string;
  now(): number;
}

export interface Exchange {
  readonly request: http.IncomingMessage;
  readonly response: http.ServerResponse;
  readonly url: URL;
}

/** Reads a body of up to 12 MB. */
export async function readForm(request: http.IncomingMessage): Promise<Buffer> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request) {
    size += (part as Buffer).length;
    if (size > 12_000_000) throw new Error('too large');
    parts.push(part as Buffer);
  }
  return Buffer.concat(parts);
}

export function send(
  response: http.ServerResponse,
  status: number,
  body: unknown,
  headers: Record<string, string> = {},
): void {
  response.writeHead(status, { 'content-type': 'application/json', ...headers });
  response.end(JSON.stringify(body));
}
