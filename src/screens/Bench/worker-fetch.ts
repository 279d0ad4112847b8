/** Longest that a worker waits for bytes, ms. */
const LONGEST_MS = 60_000;

/** Fetches for a worker. Throws the server's own sentence where it refuses. */
export async function fetchBytes(path: string): Promise<Response> {
  const answer = await fetch(path, { signal: AbortSignal.timeout(LONGEST_MS) });
  if (answer.ok) return answer;
  const problem = (await answer.json().catch(() => null)) as { detail?: string } | null;
  throw new Error(problem?.detail ?? 'The server does not answer.');
}
