import { call } from '@/ui/api';
import { onEvent } from '@/ui/events';

/** Longest that one waits for an artwork to be looked at or made. */
const PATIENCE_MS = 120_000;
/** An event tells when something happened to it; should one be missed, it is looked at this often. */
const LOOK_MS = 3000;

export interface Looked {
  readonly state: string;
  readonly refusal: { readonly message: string } | null;
}

/** Resolves at the next event of an artwork, or after a while. */
function nextNews(id: string): Promise<void> {
  return new Promise((done) => {
    const end = () => {
      clearTimeout(timer);
      quiet();
      done();
    };
    const timer = setTimeout(end, LOOK_MS);
    const quiet = onEvent((topic, payload) => {
      if (topic === 'reset' || (topic === 'artwork' && payload.artworkId === id)) end();
    });
  });
}

/** An artwork once it has been looked at. Throws the reason when it cannot be used, and after two minutes that it still goes on. */
export async function readyArtwork<T extends Looked>(id: string): Promise<T> {
  const until = Date.now() + PATIENCE_MS;
  for (;;) {
    // Listened for before it is asked: what happens between the two is not missed.
    const news = nextNews(id);
    const artwork = await call<T>('GET', `/artwork/${id}`);
    if (artwork.state === 'ready') return artwork;
    if (artwork.state === 'refused') throw new Error(artwork.refusal?.message ?? 'This file cannot be used.');
    if (Date.now() > until)
      throw new Error('This is still being worked on. It will be with your artwork when it is done.');
    await news;
  }
}
