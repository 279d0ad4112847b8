/** Loopstall's words, as they come and go. */
export interface WirePiece {
  readonly piece: string;
  readonly seller_ref: string | null;
  readonly name: string;
  readonly about: string;
  readonly shelf: string | null;
  readonly traits: { readonly [key: string]: string };
  readonly warehouse: string | null;
  readonly props: readonly { readonly prop: string; readonly values: readonly string[] }[];
  readonly units: readonly WireUnit[];
  readonly shots: readonly {
    readonly id: string;
    readonly note: string;
    readonly verdict: 'taken' | 'judging' | 'refused';
    readonly reason: string | null;
  }[];
  readonly ship: readonly { readonly to: readonly string[]; readonly each_cents: number }[];
  readonly made_in: string;
  readonly stage: 'on' | 'off';
  readonly moved: number;
  readonly page: string;
}

export interface WireUnit {
  readonly code: string;
  readonly props: readonly string[];
  readonly cents: number;
  /** −1: made as they are ordered. */
  readonly units: number;
  readonly grams: number;
  readonly shot: string | null;
}

export interface WireStall {
  readonly stall: string;
  readonly name: string;
  readonly currency: string;
  readonly region: string;
  readonly page: string;
}

export interface WireShelf {
  readonly id: string;
  readonly name: string;
  readonly parent: string | null;
  readonly asks?: readonly {
    readonly key: string;
    readonly label: string;
    readonly choices?: readonly string[];
    readonly needed: boolean;
  }[];
}

export interface WireWarehouse {
  readonly id: string;
  readonly name: string;
  readonly country: string;
}
