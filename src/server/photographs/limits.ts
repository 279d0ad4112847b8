import { invalid } from '@/core/errors';
import type { ArtworkFacts } from '../images/artwork-facts';

/** Shortest side of a photograph, px: on less nothing could be marked. */
export const PHOTOGRAPH_LEAST_PX = 200;
/** Pixels of a photograph. */
export const PHOTOGRAPH_MAX_PIXELS = 50_000_000;

/** Throws for a photograph that is too small or too large to work with. */
export function checkPhotograph({ widthPx, heightPx, vector }: ArtworkFacts): void {
  const size = `${widthPx} × ${heightPx} px`;
  if (vector)
    throw invalid(
      'photograph-vector',
      'This is a drawing (SVG); a photograph is a JPEG, PNG or WebP. Export it as one.',
    );
  if (Math.min(widthPx, heightPx) < PHOTOGRAPH_LEAST_PX)
    throw invalid(
      'photograph-small',
      `This photograph has ${size}; it needs ${PHOTOGRAPH_LEAST_PX} px or more on its shorter side. Upload a larger one.`,
    );
  if (widthPx * heightPx > PHOTOGRAPH_MAX_PIXELS)
    throw invalid(
      'photograph-large',
      `This photograph has ${size}, which is ${Math.round((widthPx * heightPx) / 1e6)} megapixels; up to ${PHOTOGRAPH_MAX_PIXELS / 1e6} can be taken. Export it smaller: 4000 px on its longer side are plenty.`,
    );
}
