/**
 * Light as whole steps that are evenly spaced to the eye: step k of `steps` is a linear light of (k ÷ steps)^2.2; steps beyond that are brighter
 * than 1. Of colors green is kept, and red and blue as what they differ from it, which packs better. 2.2 is the exponent of common displays
 * (common practice, no source); it only says how the steps lie.
 */
const GAMMA = 2.2;
/** Added to differences, so that they are not negative and small ones share their upper byte. */
const OFFSET = 2176;

/** The nearest step of a linear light of 0 or more. */
export const stepOfLight = (light: number, steps: number): number =>
  light <= 0 ? 0 : Math.round(light ** (1 / GAMMA) * steps);

/** Linear light, 0 or more, one value a pixel or three → what is kept, 16-bit. */
export function packSteps(light: Float32Array, channels: 1 | 3, steps: number): Uint16Array {
  const out = Uint16Array.from(light, (value) => stepOfLight(value, steps));
  if (channels === 1) return out;
  for (let i = 0; i < out.length; i += 3) {
    const [red, green, blue] = [out[i]!, out[i + 1]!, out[i + 2]!];
    out[i] = red - green + OFFSET;
    out[i + 2] = blue - green + OFFSET;
  }
  return out;
}

/** What is kept → linear light as 16 bits, 65535 standing for `scale`; brighter light than that is cut. */
export function unpackSteps(kept: Uint16Array, channels: 1 | 3, steps: number, scale: number): Uint16Array {
  const brightest = Math.ceil(scale ** (1 / GAMMA) * steps) + 1;
  const table = Uint16Array.from({ length: brightest + 1 }, (_, k) =>
    Math.round((Math.min(scale, (k / steps) ** GAMMA) / scale) * 65535),
  );
  const lightOf = (step: number) => table[Math.max(0, Math.min(brightest, step))]!;
  const out = new Uint16Array(kept.length);
  if (channels === 1) for (let i = 0; i < kept.length; i += 1) out[i] = lightOf(kept[i]!);
  else
    for (let i = 0; i < kept.length; i += 3) {
      const green = kept[i + 1]!;
      out[i] = lightOf(kept[i]! - OFFSET + green);
      out[i + 1] = lightOf(green);
      out[i + 2] = lightOf(kept[i + 2]! - OFFSET + green);
    }
  return out;
}
