/**
 * What the mock-up kernel does, on one memory. All arguments are addresses in bytes or whole numbers. Art is premultiplied linear light,
 * 15 bit, ink the same in 16, four values a pixel; light has `ONE` = 16384.
 */
export interface ShotOps {
  /** `n` pixels of premultiplied 8-bit sRGB to linear. Filtering happens after this, in linear light. */
  linear(src: number, dst: number, n: number, lin: number, undo: number): void;
  /** Half the size, each pixel the mean of 2×2; odd edges repeat their last pixel. */
  halve(src: number, w: number, h: number, dst: number): void;
  /**
   * For each of `n` pixels of an area the color of the art at its place: from the two copies that are about as fine as the picture, bilinear
   * in each. `levels`: `count` records (i32) of address, width, height and a gap. Place in art pixels × 2²⁴ = `u0` + u × `us`. `scale` + `lod`
   * is how much finer the art is, in sixteenths of an octave. `bare`: 1 where nothing lies beyond the art's edges. What the area covers only in part, and the weave's gaps, take less.
   */
  warp(
    share: number,
    u: number,
    v: number,
    scale: number,
    weave: number,
    n: number,
    levels: number,
    count: number,
    u0: number,
    us: number,
    v0: number,
    vs: number,
    lod: number,
    depth: number,
    bare: number,
    ink: number,
  ): void;
  /**
   * Light as a near-black or heathered fabric takes it: see `darkCurve` and `HEATHER_DEPTH`; any of direct, heather, table may be 0. `runs` as
   * in `fabric`: elsewhere there is no light.
   */
  relight(
    light: number,
    direct: number,
    cover: number,
    heather: number,
    table: number,
    runs: number,
    count: number,
    bounce: number,
    depth: number,
    out: number,
  ): void;
  /** A color under each light from 0 to `n` − 1, as the bytes of a pixel. */
  shades(r: number, g: number, b: number, n: number, tone: number, out: number): void;
  /**
   * Writes fabric of one color: tone(over + light × color). `runs`: `count` records (i32) of first pixel, length, and 1 where nothing lies
   * over the fabric; there its `shades` are looked up. `w` is the width of a row of planes, `step` 3 or 4 bytes a pixel.
   */
  fabric(
    over: number,
    light: number,
    runs: number,
    count: number,
    w: number,
    r: number,
    g: number,
    b: number,
    tone: number,
    shades: number,
    out: number,
    stride: number,
    step: number,
  ): void;
  /**
   * What of the pixels under ink does not depend on the fabric's color, worked out once for a design: three values of light, and the share of
   * the color that is added to them. All four 0 where there is no ink. Not for dyes.
   */
  settle(
    ink: number,
    over: number,
    lightOfFabric: number,
    lightOfInk: number,
    gloss: number,
    planeStride: number,
    inkStride: number,
    w: number,
    h: number,
    fixed: number,
    glossShare: number,
    settled: number,
  ): void;
  /** Writes the settled pixels under ink on a color. */
  inked(
    settled: number,
    w: number,
    h: number,
    r: number,
    g: number,
    b: number,
    tone: number,
    out: number,
    stride: number,
    step: number,
  ): void;
  /**
   * Writes the pixels under ink, whatever the light. Bit 0 of `mode`: a dye, which colors what is under it; bit 1: what is under it is in `over`. Rows of planes are
   * `planeStride` apart, those of the ink's light `inkStride`.
   */
  ink(
    ink: number,
    over: number,
    lightOfFabric: number,
    lightOfInk: number,
    gloss: number,
    planeStride: number,
    inkStride: number,
    w: number,
    h: number,
    r: number,
    g: number,
    b: number,
    mode: number,
    glossShare: number,
    tone: number,
    out: number,
    stride: number,
    step: number,
  ): void;
}
