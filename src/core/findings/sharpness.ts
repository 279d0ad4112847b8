import { BLOCK_PX } from '../artwork/blocks';
import type { Layer } from '../document/document';
import type { Geometry } from '../geometry/area';
import { axisLengths } from '../geometry/matrix';
import { effectiveDpi, sharpWidthMm } from '../geometry/placement';
import { FALLBACK, familyByCode } from '../lettering/families';
import type { Add, ArtworkSize } from './finding';
import { sharpRemedy } from './moves';
import type { PlacedLayer } from './placed';
import type { Remedy } from './remedy';
import { THRESHOLDS } from './thresholds';

const mm = (value: number) => `${Math.round(value)} mm`;

/** Whether an artwork has the pixels, and the detail in them, for the size in which it is printed. */
export function lookAtSharpness(
  layer: Layer,
  size: ArtworkSize,
  placed: readonly PlacedLayer[],
  where: string,
  add: Add,
): void {
  const { name } = layer;
  if (size.missingFonts && size.missingFonts.length > 0)
    add(
      'fonts-missing',
      'stop',
      `${name} holds text in ${size.missingFonts.join(', ')}, which is not here: it is set in ${familyByCode(FALLBACK)!.name} instead. Look at it and accept it as it is, or convert its text to outlines and upload it again.`,
    );
  if (size.vector) return;
  const worst = placed
    .map((p) => ({ ...p, dpi: effectiveDpi(p.matrix, size.widthPx, size.heightPx) }))
    .reduce((a, b) => (b.dpi / b.geometry.dpi < a.dpi / a.geometry.dpi ? b : a));
  const sharpMm = sharpWidthMm(size.widthPx, worst.geometry.dpi);
  const sharp = mm(sharpMm);
  const share = worst.dpi / worst.geometry.dpi;
  const { softShare, blurryShare } = THRESHOLDS[worst.geometry.technique];
  lookForEnlarged(layer, size, worst, where, add);
  lookForBlocks(layer, size, worst, add);
  if (size.replaced && size.replaced.widthPx * size.replaced.heightPx > size.widthPx * size.heightPx * 1.02)
    add(
      'replaced-smaller',
      'warn',
      `${name} has ${size.widthPx} × ${size.heightPx} px; ${size.replaced.name}, which it replaced, had ${size.replaced.widthPx} × ${size.replaced.heightPx}.`,
    );
  if (share < softShare)
    add(
      'resolution',
      share < blurryShare ? 'stop' : 'warn',
      `${name} has ${Math.round(worst.dpi)} DPI on the ${where}; ${worst.geometry.dpi} is wanted. It is sharp up to ${sharp} wide.`,
      sharpRemedy(layer, worst, sharpMm) ?? undefined,
      undefined,
      enlargeRemedy(size, worst) ?? undefined,
    );
}

type Worst = PlacedLayer & { readonly dpi: number };

/** Share of its pixels' density from which on down a picture has been enlarged: a lens alone leaves more (measured on pictures drawn and blurred). */
const ENLARGED = 0.55;

/** Pixels that were made up say nothing: what was enlarged, here or elsewhere, is judged by the detail that it had. */
function lookForEnlarged(layer: Layer, size: ArtworkSize, worst: Worst, where: string, add: Add): void {
  const { name } = layer;
  const { softShare } = THRESHOLDS[worst.geometry.technique];
  const isSoft = (dpi: number) => dpi / worst.geometry.dpi < softShare;
  if (size.enlargedFromPx) {
    const detailDpi = (worst.dpi * size.enlargedFromPx) / size.widthPx;
    return add(
      'enlarged',
      isSoft(detailDpi) ? 'warn' : 'note',
      `${name} was enlarged from ${size.enlargedFromPx} px wide: it has the detail of ${Math.round(detailDpi)} DPI on the ${where}.`,
    );
  }
  const share = size.detailShare ?? 1;
  // Too few pixels are told as that.
  if (share > ENLARGED || isSoft(worst.dpi) || !isSoft(worst.dpi * share)) return;
  const sharpMm = sharpWidthMm(size.widthPx * share, worst.geometry.dpi);
  add(
    'enlarged',
    'warn',
    `${name} is blurred or was enlarged before it came here: its ${size.widthPx} px hold the detail of about ${Math.round(size.widthPx * share)}, which is ${Math.round(worst.dpi * share)} DPI on the ${where}; ${worst.geometry.dpi} is wanted. It is sharp up to ${mm(sharpMm)} wide.`,
    sharpRemedy(layer, worst, sharpMm) ?? undefined,
  );
}

/** Step of a JPEG from which on its blocks show: about quality 25 of the usual tables (chosen by eye, no source). */
const COARSE_STEP = 24;
/** Blocks that print smaller than this are not seen at arm's length (chosen by eye, no source), mm. */
const SMALL_BLOCK_MM = 0.5;

function lookForBlocks(layer: Layer, size: ArtworkSize, worst: Worst, add: Add): void {
  if ((size.jpegStep ?? 0) < COARSE_STEP) return;
  const blockMm = (BLOCK_PX * 25.4) / worst.dpi;
  if (blockMm < SMALL_BLOCK_MM) return;
  // A hair less, so that they are smaller than what is told.
  const fineMm = (axisLengths(worst.matrix).x * SMALL_BLOCK_MM) / blockMm - 0.05;
  add(
    'blocks',
    'warn',
    `${layer.name} was saved as a JPEG with much compression: its blocks print ${blockMm.toFixed(1)} mm wide and can be seen. Export it again with less compression, or make it smaller.`,
    sharpRemedy(layer, worst, fineMm) ?? undefined,
  );
}

/** Most pixels that an artwork is enlarged to. */
const MAX_PIXELS = 120e6;

/** Enlarged so far that its density is what is wanted. */
function enlargeRemedy(size: ArtworkSize, worst: { readonly dpi: number; readonly geometry: Geometry }): Remedy | null {
  const widthPx = Math.ceil((size.widthPx * worst.geometry.dpi) / worst.dpi);
  if ((widthPx * widthPx * size.heightPx) / size.widthPx > MAX_PIXELS) return null;
  return { kind: 'derive', derive: { kind: 'enlarge', widthPx } };
}
