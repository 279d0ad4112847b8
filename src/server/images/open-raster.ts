import zlib from 'node:zlib';
import sharp, { type Sharp } from 'sharp';
import { rgbProfile, SRGB_PRIMARIES, type Primaries } from '@/core/print/icc';
import { chunk, SIGNATURE } from '@/core/print/png-chunks';

/** Gamma of a file, as PNG writes it, that is sRGB's within what is seen (W3C PNG, third edition, §11.3.2.2). */
const PLAIN_GAMMA = 0.45455;
const SAME_GAMMA = 0.005;
const SAME_PLACE = 0.002;

/** What a PNG says of its colors where it has no profile; null where that is sRGB, or another chunk says it. */
function declaredColors(bytes: Buffer): { readonly gamma: number; readonly primaries: Primaries } | null {
  let gamma: number | null = null;
  let primaries: Primaries | null = null;
  for (let at = 8; at + 12 <= bytes.length;) {
    const size = bytes.readUInt32BE(at);
    const type = bytes.toString('latin1', at + 4, at + 8);
    if (type === 'IDAT' || at + 12 + size > bytes.length) break;
    // These say more, and go before (§11.3.2).
    if (type === 'iCCP' || type === 'sRGB' || type === 'cICP') return null;
    const value = (i: number) => bytes.readUInt32BE(at + 8 + 4 * i) / 100_000;
    if (type === 'gAMA' && size === 4) gamma = value(0);
    if (type === 'cHRM' && size === 32)
      primaries = {
        white: [value(0), value(1)],
        red: [value(2), value(3)],
        green: [value(4), value(5)],
        blue: [value(6), value(7)],
      };
    at += 12 + size;
  }
  if (gamma === null || gamma < 0.05 || gamma > 5) return null;
  const isPlain = Math.abs(gamma - PLAIN_GAMMA) < SAME_GAMMA;
  if (!primaries || !isSpace(primaries) || isSrgb(primaries))
    return isPlain ? null : { gamma, primaries: SRGB_PRIMARIES };
  return { gamma, primaries };
}

const places = ({ white, red, green, blue }: Primaries) => [...white, ...red, ...green, ...blue];
const isSrgb = (primaries: Primaries): boolean => {
  const own = places(SRGB_PRIMARIES);
  return places(primaries).every((value, i) => Math.abs(value - own[i]!) < SAME_PLACE);
};
/** Whether three primaries span an area: a file can say anything. */
const isSpace = ({ white, red, green, blue }: Primaries): boolean =>
  [white, red, green, blue].every(([x, y]) => x >= 0 && y > 0.01 && x + y <= 1) &&
  Math.abs((green[0] - red[0]) * (blue[1] - red[1]) - (blue[0] - red[0]) * (green[1] - red[1])) > 0.01;

/** Whether a PNG says its colors by gamma and primaries, and they are not those of sRGB. */
export const declaresColors = (bytes: Buffer): boolean =>
  SIGNATURE.every((byte, i) => bytes[i] === byte) && declaredColors(bytes) !== null;

/** A PNG that says its colors by gamma and primaries, with the profile that says the same. Other files as they are. */
function withProfile(bytes: Buffer): Buffer {
  const declared = declaresColors(bytes) && declaredColors(bytes);
  if (!declared) return bytes;
  const { gamma, primaries } = declared;
  const profile = rgbProfile(`gamma ${gamma}`, primaries, (value) => value ** (1 / gamma));
  const data = Buffer.concat([Buffer.from('gamma\0\0', 'latin1'), zlib.deflateSync(profile)]);
  // After the header, whose size is known (§11.2.1).
  const head = 8 + 12 + 13;
  return Buffer.concat([bytes.subarray(0, head), ...chunk('iCCP', data, zlib.crc32), bytes.subarray(head)]);
}

/**
 * A picture of strangers as sRGB of 8 bits a channel, upright: by its embedded profile, or by what a PNG says of its gamma. The pipeline works in sRGB from
 * the beginning: for 16 bits libvips would go through a wider space and call its numbers sRGB, and CMYK would be read by another profile than its own.
 */
export const openRaster = (
  bytes: Buffer,
  options: { readonly limitInputPixels: number | false; readonly failOn?: 'truncated' },
): Sharp => sharp(withProfile(bytes), options).pipelineColourspace('srgb').autoOrient().toColourspace('srgb');
