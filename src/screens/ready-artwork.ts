import { call } from '@/ui/api';

/** Longest that one waits for an artwork to be looked at or made, and how often one asks. */
const PATIENCE_MS = 120_000;
const ASK_MS = 400;

interface Looked {
  readonly state: string;
  readonly refusal: { readonly message: string } | null;
}

/** An artwork once it has been looked at. Throws the reason when it cannot be used, and after two minutes that it still goes on. */
export async function readyArtwork<T extends Looked>(id: string): Promise<T> {
  const until = Date.now() + PATIENCE_MS;
  for (;;) {
    const artwork = await call<T>('GET', `/artwork/${id}`);
    if (artwork.state === 'ready') return artwork;
    if (artwork.state === 'refused') throw new Error(artwork.refusal?.message ?? 'This file cannot be used.');
    if (Date.now() > until)
      throw new Error('This is still being worked on. It will be with your artwork when it is done.');
    await new Promise((resume) => setTimeout(resume, ASK_MS));
  }
}
