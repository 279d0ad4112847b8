import { isTypicaError } from '@/core/errors';
import { publicArtwork, type Artwork } from '@/server/artwork/artwork';
import { browseArtwork, type ArtworkSort, type ArtworkUse } from '@/server/artwork/library';
import { readArtworkQuery } from '@/server/artwork/query';
import type { Context } from '@/server/context';
import type { Actor } from '@/server/people/people';

export type ArtworkItem = Artwork & { readonly products: number };
export type Use = ArtworkUse;

/** One page of the artwork as `GET /artwork` answers it. */
export interface ArtworkList {
  readonly total: number;
  readonly artwork: readonly ArtworkItem[];
  readonly tags: readonly { readonly tag: string; readonly count: number }[];
}

export interface ArtworkData {
  readonly list: ArtworkList;
  readonly words: string;
  readonly tag: string | null;
  readonly sort: ArtworkSort;
  /** What of the address could not be used. */
  readonly problem: string | null;
}

export async function loadArtworkScreen(ctx: Context, actor: Actor, params: URLSearchParams): Promise<ArtworkData> {
  let problem: string | null = null;
  let query = readArtworkQuery(new URLSearchParams());
  try {
    query = readArtworkQuery(params);
  } catch (error) {
    if (!isTypicaError(error)) throw error;
    problem = error.message;
  }
  const { total, artwork, tags } = await browseArtwork(ctx, actor.workspaceId, query);
  return {
    list: { total, tags, artwork: artwork.map((one) => ({ ...publicArtwork(one), products: one.products })) },
    words: query.words,
    tag: query.tag,
    sort: query.sort ?? 'newest',
    problem,
  };
}
