import type { ProductDocument } from '@/core/document/document';
import type { BenchShot } from '../load';

/** Who draws proofs. */
export interface ProofAsking {
  /** Pictures of a shot as the design is now, one for each color. */
  ask(
    shot: BenchShot,
    areas: ProductDocument['areas'],
    colors: readonly (string | null)[],
    sidePx?: number,
  ): Promise<readonly ImageBitmap[]>;
}

/** What of the proof is in view. */
export interface ProofView {
  readonly asking: ProofAsking;
  /** Shots that show the variant in view. */
  readonly shots: readonly BenchShot[];
  readonly shot: BenchShot | null;
  setShot(id: string): void;
  /** What is opened over the bench. */
  readonly open: 'large' | 'colors' | null;
  setOpen(open: ProofView['open']): void;
}
