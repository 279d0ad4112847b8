import type { ShelfAnswer } from '@/core/shelf/shelf';

export interface Browsed extends ShelfAnswer {
  readonly currency: string;
  /** Date of the oldest rate that a conversion needed, or null when none did. */
  readonly ratesOf: string | null;
  readonly partners: { readonly [id: string]: string };
}
