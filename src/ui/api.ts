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

/** Calls the HTTP API. Throws a Problem for an error answer, and one with the code `offline` when there is no answer. */
export async function call<T>(
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
): Promise<T> {
  let answer: Response;
  try {
    answer = await fetch(`/api/v1${path}`, {
      method,
      headers: { ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
      body: body === undefined ? undefined : JSON.stringify(body),
      signal: AbortSignal.timeout(LONGEST_MS),
    });
  } catch {
    throw new Problem(0, 'offline', 'The server does not answer. Check that Typica still runs, then try again.', {});
  }
  // A whole new page, not a soft navigation: nothing of the session that ended stays in memory.
  if (answer.status === 401 && path !== '/sessions')
    window.location.replace(`/sign-in?back=${encodeURIComponent(window.location.pathname)}`);
  const text = await answer.text();
  const json = parsed(text);
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
          new Problem(
            request.status,
            String(json?.code),
            String(json?.detail ?? 'The upload was not taken.'),
            json ?? {},
          ),
        );
    };
    request.send(file);
  });
}
