import type { MapPlanes, Pass16, Shot, ShotArea } from './shot';

/** Mean of `factor`² neighbors for each of `channels`, rows from the top; what is left over at right and bottom is dropped. */
function meanOf<T extends Uint8Array | Uint16Array>(
  make: (n: number) => T,
  values: T,
  { widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number },
  channels: number,
  factor: number,
): T {
  const [w, h] = [Math.floor(widthPx / factor), Math.floor(heightPx / factor)];
  const out = make(w * h * channels);
  const n = factor * factor;
  if (factor === 2) {
    // The proof's own size, without loops inside the loop.
    const below = widthPx * channels;
    for (let y = 0, o = 0; y < h; y += 1)
      for (let x = 0, i = 2 * y * below; x < w; x += 1, i += channels)
        for (let c = 0; c < channels; c += 1, i += 1, o += 1)
          out[o] = (values[i]! + values[i + channels]! + values[i + below]! + values[i + below + channels]! + 2) >> 2;
    return out;
  }
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

/** Mean of a map's coordinates over those of the `factor`² pixels on which there are any: beside its coverage a map says nothing. */
function meanWhere(values: Uint16Array, where: Uint8Array, { widthPx, heightPx }: Shot, factor: number): Uint16Array {
  const [w, h] = [Math.floor(widthPx / factor), Math.floor(heightPx / factor)];
  const out = new Uint16Array(w * h);
  for (let y = 0; y < h; y += 1)
    for (let x = 0; x < w; x += 1) {
      let [sum, count] = [0, 0];
      for (let j = 0; j < factor; j += 1)
        for (let i = 0; i < factor; i += 1) {
          const at = (y * factor + j) * widthPx + x * factor + i;
          if (where[at] === 0) continue;
          sum += values[at]!;
          count += 1;
        }
      if (count > 0) out[y * w + x] = Math.round(sum / count);
    }
  return out;
}

/** The same shot at 1/factor of its size, for the live proof and for small pictures. */
export function reduceShot(shot: Shot, factor: number): Shot {
  if (factor === 1) return shot;
  const words = (pass: Pass16, channels: number): Pass16 => ({
    ...pass,
    values: meanOf((n) => new Uint16Array(n), pass.values, shot, channels, factor),
  });
  const bytes = (values: Uint8Array) => meanOf((n) => new Uint8Array(n), values, shot, 1, factor);
  const map = <M extends MapPlanes>(planes: M, where: Uint8Array): M => ({
    ...planes,
    u: meanWhere(planes.u, where, shot, factor),
    v: meanWhere(planes.v, where, shot, factor),
  });
  const area = (a: ShotArea): ShotArea => ({ ...map(a, a.coverage), coverage: bytes(a.coverage) });
  return {
    ...shot,
    widthPx: Math.floor(shot.widthPx / factor),
    heightPx: Math.floor(shot.heightPx / factor),
    rest: words(shot.rest, 3),
    shade: shot.shade && words(shot.shade, 1),
    direct: shot.direct && words(shot.direct, 1),
    specular: shot.specular && words(shot.specular, 1),
    fabric: shot.fabric && bytes(shot.fabric),
    front: shot.front && bytes(shot.front),
    good: shot.good && bytes(shot.good),
    pattern: shot.pattern && shot.fabric && map(shot.pattern, shot.fabric),
    areas: Object.fromEntries(Object.entries(shot.areas).map(([key, a]) => [key, area(a)])),
  };
}
