import { askToSignIn } from './signed-out';

/** An error answer of the API (RFC 9457) as an Error whose message is for the person. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly fields: Record<string, unknown>,
  ) {
    super(message);
  }
}

/** What takes longer is done by a job; longer than this nobody waits. */
const LONGEST_MS = 150_000;

/** An answer's JSON, or null where something between us and the server answered in another way. */
function parsed(text: string): Record<string, unknown> | null {
  try {
    return text ? (JSON.parse(text) as Record<string, unknown>) : null;
  } catch {
    return null;
  }
}

export interface CallHow {
  readonly headers?: Record<string, string>;
  /** Whether it waits, when the session has ended, until one has signed in again over the page, and then goes on. */
  readonly waitsForSignIn?: boolean;
}

/** The most that a browser sends after the page is gone, in characters that may each take three bytes. */
const MAX_AFTERWARDS = 20_000;
/** Whether the page is about to go: what is sent then must not go with it. */
let leaving = false;
if (typeof window !== 'undefined') {
  window.addEventListener('pagehide', () => (leaving = true));
  window.addEventListener('pageshow', () => (leaving = false));
}

/** Calls the HTTP API. Throws a Problem for an error answer, and one with the code `offline` when there is no answer. */
export async function call<T>(method: string, path: string, body?: unknown, how: CallHow = {}): Promise<T> {
  const { headers = {}, waitsForSignIn = true } = how;
  const text = body === undefined ? undefined : JSON.stringify(body);
  let answer: Response;
  try {
    answer = await fetch(`/api/v1${path}`, {
      method,
      headers: { ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
      body: text,
      keepalive: leaving && text !== undefined && text.length < MAX_AFTERWARDS,
      signal: AbortSignal.timeout(LONGEST_MS),
    });
  } catch {
    throw new Problem(0, 'offline', 'The server does not answer. Check that Typica still runs, then try again.', {});
  }
  if (answer.status === 401 && path !== '/sessions') {
    const signedIn = askToSignIn();
    if (signedIn && waitsForSignIn) {
      await signedIn;
      return call(method, path, body, how);
    }
    // A whole new page, not a soft navigation: nothing of the session that ended stays in memory.
    if (!signedIn) window.location.replace(`/sign-in?back=${encodeURIComponent(window.location.pathname)}`);
  }
  const json = parsed(await answer.text());
  if (!answer.ok)
    throw new Problem(
      answer.status,
      String(json?.code ?? 'unknown'),
      String(json?.detail ?? answer.statusText),
      json ?? {},
    );
  return json as T;
}

/** Uploads a file as a body of its own, with progress 0 to 1. */
export function upload<T>(path: string, file: File, onProgress: (share: number) => void): Promise<T> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('POST', `/api/v1${path}`);
    request.upload.onprogress = (e) => e.lengthComputable && onProgress(e.loaded / e.total);
    request.timeout = 15 * 60_000;
    request.ontimeout = () =>
      reject(new Problem(0, 'offline', 'The upload took too long and was stopped. Try again.', {}));
    request.onerror = () => reject(new Problem(0, 'offline', 'The upload broke off. Try again.', {}));
    request.onload = () => {
      const json = parsed(request.responseText);
      if (request.status < 300) resolve(json as T);
      else
        reject(
          new Problem(request.status, String(json?.code), String(json?.detail ?? 'The upload failed.'), json ?? {}),
        );
    };
    request.send(file);
  });
}
