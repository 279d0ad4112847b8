/** A shape without content, as a cleaned SVG writes it: no attribute holds a `<`. */
const SHAPE = /<(rect|path|polygon|polyline|circle|ellipse)\b[^<]*><\/\1>/g;
/** Shapes that may be a box: the first that are drawn. */
const MAX_TRIED = 8;

/** A cleaned SVG without one of its first shapes, for each of them: one of these is without its box, where that is a shape by itself. */
export function withoutOneShape(svg: string): string[] {
  return [...svg.matchAll(SHAPE)]
    .slice(0, MAX_TRIED)
    .map((shape) => svg.slice(0, shape.index) + svg.slice(shape.index + shape[0].length));
}
