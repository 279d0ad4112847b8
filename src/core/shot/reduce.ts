import type { Shot, ShotArea } from './shot';

/** Mean of `factor`² neighbors for each of `channels`, rows from the top; what is left over at right and bottom is dropped. */
function meanOf<T extends Uint8Array | Uint16Array>(
  make: (n: number) => T,
  values: T,
  widthPx: number,
  heightPx: number,
  channels: number,
  factor: number,
): T {
  const [w, h] = [Math.floor(widthPx / factor), Math.floor(heightPx / factor)];
  const out = make(w * h * channels);
  const n = factor * factor;
  for (let y = 0; y < h; y += 1) {
    for (let x = 0; x < w; x += 1) {
      for (let c = 0; c < channels; c += 1) {
        let sum = 0;
        for (let j = 0; j < factor; j += 1) {
          for (let i = 0; i < factor; i += 1)
            sum += values[((y * factor + j) * widthPx + x * factor + i) * channels + c]!;
        }
        out[(y * w + x) * channels + c] = Math.round(sum / n);
      }
    }
  }
  return out;
}

/** The same shot at 1/factor of its size, for the live proof. Maps are averaged too: they are smooth inside their coverage. */
export function reduceShot(shot: Shot, factor: number): Shot {
  if (factor === 1) return shot;
  const { widthPx, heightPx } = shot;
  const words = (values: Uint16Array, channels: number) =>
    meanOf((n) => new Uint16Array(n), values, widthPx, heightPx, channels, factor);
  const bytes = (values: Uint8Array) => meanOf((n) => new Uint8Array(n), values, widthPx, heightPx, 1, factor);
  const area = (a: ShotArea): ShotArea => ({ ...a, coverage: bytes(a.coverage), u: words(a.u, 1), v: words(a.v, 1) });
  return {
    ...shot,
    widthPx: Math.floor(widthPx / factor),
    heightPx: Math.floor(heightPx / factor),
    rest: { ...shot.rest, values: words(shot.rest.values, 3) },
    shade: { ...shot.shade, values: words(shot.shade.values, 1) },
    specular: shot.specular && { ...shot.specular, values: words(shot.specular.values, 1) },
    fabric: bytes(shot.fabric),
    areas: Object.fromEntries(Object.entries(shot.areas).map(([key, a]) => [key, area(a)])),
  };
}
