/** Plainfront's words, as they come and go. */
export interface WireProduct {
  readonly id: string;
  readonly title: string;
  readonly text: string;
  readonly labels: readonly string[];
  readonly handle: string;
  readonly search: { readonly title: string; readonly summary: string };
  readonly collections: readonly string[];
  readonly delivery: string | null;
  readonly options: readonly { readonly name: string; readonly values: readonly string[] }[];
  readonly variants: readonly WireVariant[];
  readonly pictures: readonly { readonly id: string; readonly alt: string }[];
  readonly state: 'published' | 'hidden';
  readonly updated_at: string;
  readonly url: string;
}

export interface WireVariant {
  readonly sku: string;
  readonly values: { readonly [option: string]: string };
  readonly price: string;
  readonly was: string | null;
  readonly stock: 'endless' | number;
  readonly barcode: string | null;
  readonly weight_g: number | null;
  readonly picture: string | null;
}

export interface WireTable {
  readonly name: string;
  readonly zones: readonly {
    readonly to: readonly string[];
    readonly bands: readonly { readonly upToGrams: number; readonly price: string }[];
  }[];
}

export interface WireKey {
  readonly scopes: readonly string[];
  readonly expires: string;
  readonly storefronts: readonly {
    readonly id: string;
    readonly name: string;
    readonly currency: string;
    readonly url: string;
  }[];
}

export interface WireDiscount {
  readonly code: string;
  readonly percent: string | null;
  readonly amount: string | null;
  readonly products: readonly string[] | null;
}
