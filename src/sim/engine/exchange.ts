import type http from 'node:http';

/** One request with what answers it. */
export interface Exchange {
  readonly request: http.IncomingMessage;
  readonly response: http.ServerResponse;
  readonly url: URL;
}

/** What a shop answers; the engine writes it, or what a fault makes of it. */
export interface Answer {
  readonly status: number;
  /** JSON, where it is no text. */
  readonly body?: unknown;
  readonly type?: string;
  readonly headers?: Readonly<Record<string, string>>;
}

const MAX_BODY = 24_000_000;

/** Someone sent more than the shop reads. */
export class TooLarge extends Error {}

/** Reads a body whole. Throws `TooLarge`. */
export async function readBody(request: http.IncomingMessage): Promise<Buffer> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request) {
    size += (part as Buffer).length;
    if (size > MAX_BODY) throw new TooLarge('the body is too large');
    parts.push(part as Buffer);
  }
  return Buffer.concat(parts);
}

/** The fields of a posted form; of those that come more than once the last. */
export const readForm = async (request: http.IncomingMessage): Promise<Record<string, string>> =>
  Object.fromEntries(new URLSearchParams((await readBody(request)).toString('utf8')));

export const json = (status: number, body: unknown, headers: Record<string, string> = {}): Answer => ({
  status,
  body,
  headers,
});

export const page = (html: string, status = 200): Answer => ({ status, body: html, type: 'text/html; charset=utf-8' });

export const goTo = (location: string, headers: Record<string, string> = {}): Answer => ({
  status: 303,
  headers: { location, ...headers },
});

export const NO_CONTENT: Answer = { status: 204 };

/** An answer as it goes over the wire: its headers and its bytes. */
export function packed({ body, type, headers = {} }: Answer): { headers: Record<string, string>; bytes: Buffer } {
  if (body === undefined) return { headers: { ...headers }, bytes: Buffer.alloc(0) };
  const bytes = Buffer.isBuffer(body) ? body : Buffer.from(type === undefined ? JSON.stringify(body) : String(body));
  return { headers: { 'content-type': type ?? 'application/json', ...headers }, bytes };
}

/** A body that was to be a JSON object; null for what is none. */
export function jsonObject(body: Buffer): Record<string, unknown> | null {
  if (body.length === 0) return {};
  try {
    const said: unknown = JSON.parse(body.toString('utf8'));
    return typeof said === 'object' && said !== null && !Array.isArray(said) ? (said as Record<string, unknown>) : null;
  } catch {
    return null;
  }
}

export function cookieOf(request: http.IncomingMessage, name: string): string | null {
  const found = (request.headers.cookie ?? '')
    .split(/;\s*/)
    .find((cookie) => cookie.slice(0, cookie.indexOf('=')) === name);
  return found === undefined ? null : decodeURIComponent(found.slice(name.length + 1));
}
