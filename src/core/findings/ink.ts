/** A color of what is printed. */
export interface Ink {
  readonly hex: string;
  /** Share of what is printed, 0 to 1. */
  readonly share: number;
}
