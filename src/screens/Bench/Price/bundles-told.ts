import type { BundleSums, BundleTold } from '@/core/pricing/bundle-told';

export type { BundleSums, BundleTold };

/** A product that a bundle can hold, as the API tells it. */
export interface BundleGood {
  readonly productId: string;
  readonly title: string;
  readonly variants: readonly { readonly key: string; readonly name: string }[];
}

export interface BundlesTold {
  readonly bundles: readonly BundleTold[];
  /** The products that the bundles hold. */
  readonly goods: readonly BundleGood[];
}
