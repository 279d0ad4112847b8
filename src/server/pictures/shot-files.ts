import type { ShotDocument } from '@/core/shot/shot';

/** A shot with where its files lie. */
export interface ShotFiles {
  readonly document: ShotDocument;
  readonly contentHash: string;
  /** Blobs by file name. */
  readonly passes: { readonly [file: string]: string };
}
