import type { BundleSums, BundleView } from '@/core/pricing/bundle-view';

export type { BundleSums, BundleView };

/** A product that a bundle can hold, as the API tells it. */
export interface BundleGood {
  readonly productId: string;
  readonly title: string;
  readonly variants: readonly { readonly key: string; readonly name: string }[];
}

export interface BundlesView {
  readonly bundles: readonly BundleView[];
  /** The products that the bundles hold. */
  readonly goods: readonly BundleGood[];
}
