declare module 'perspective-transform' {
  /** Corners as x, y pairs: of the source, then of where they go. */
  export default function PerspT(
    source: readonly number[],
    target: readonly number[],
  ): {
    transform(x: number, y: number): [number, number];
  };
}
