import sharp from 'sharp';

/** An SVG of a few kilobytes within all limits on shapes, whose strokes are dashed in millions of dashes: about an eighth of a second for each path. */
export const slowSvg = (paths: number, salt = 0): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="100" height="100"><g fill="none" stroke="#00${salt % 10}" stroke-dasharray="0.002">${Array.from(
    { length: paths },
    (_, i) => `<path d="M0 ${i % 100}C100 0 0 100 100 ${i % 100}"/>`,
  ).join('')}</g></svg>`;

/** A small picture that nobody has uploaded before. */
export const smallPng = (salt: number): Promise<Buffer> =>
  sharp({ create: { width: 300 + (salt % 50), height: 200, channels: 3, background: { r: salt % 256, g: 90, b: 40 } } })
    .png()
    .toBuffer();

interface Artwork {
  readonly id: string;
  readonly state: string;
}

/** Uploads with a token, and asks how it is. */
export function uploader(origin: string, token: string) {
  const headers = { authorization: `Bearer ${token}` };
  const json = async <T>(answer: Response): Promise<T> => {
    if (!answer.ok) throw new Error(`${answer.status} ${await answer.text()}`);
    return (await answer.json()) as T;
  };
  const stateOf = async (id: string): Promise<string> =>
    (await json<Artwork>(await fetch(`${origin}/api/v1/artwork/${id}`, { headers }))).state;
  return {
    stateOf,
    async upload(bytes: Buffer | string, name: string): Promise<string> {
      const body = typeof bytes === 'string' ? bytes : new Uint8Array(bytes);
      return (
        await json<Artwork>(await fetch(`${origin}/api/v1/artwork?name=${name}`, { method: 'POST', headers, body }))
      ).id;
    },
    /** Milliseconds until it has been looked at. */
    async waitFor(id: string): Promise<number> {
      const began = performance.now();
      while ((await stateOf(id)) === 'ingesting') await new Promise((next) => setTimeout(next, 20));
      return performance.now() - began;
    },
    async stopAll(): Promise<void> {
      const { jobs } = await json<{ jobs: { id: string; state: string }[] }>(
        await fetch(`${origin}/api/v1/jobs`, { headers }),
      );
      for (const { id, state } of jobs)
        if (state === 'running' || state === 'queued')
          await fetch(`${origin}/api/v1/jobs/${id}/cancel`, { method: 'POST', headers });
    },
  };
}
