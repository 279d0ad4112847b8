import type { MainColor } from '@/core/artwork/analysis';
import type { PixelFacts } from '@/core/artwork/pixel-facts';
import type { ThinInk } from '@/core/artwork/strokes';
import type { Box } from '@/core/geometry/box';

/** What is known of an artwork once it has been looked at. Looks are absent in artworks that were taken in before there were such checks, until they are looked at again. */
export interface ArtworkFacts extends Partial<Omit<ClosePicture, 'mainColors'>> {
  readonly mediaType: string;
  readonly vector: boolean;
  /** As seen: the orientation tag is applied. For a vector its size in CSS px. */
  readonly widthPx: number;
  readonly heightPx: number;
  /** Pixels per inch that the file claims, or null. */
  readonly densityDpi: number | null;
  readonly hasAlpha: boolean;
  /** Box of what is visible, as shares 0 to 1 of width and height; null when nothing is. */
  readonly visible: Box | null;
  readonly mainColors: readonly MainColor[];
  /** Things that were done to it, in sentences. */
  readonly notes: readonly string[];
  /** Enlarged by resampling: the width that it had. */
  readonly enlargedFromPx?: number;
  /** The step to which a JPEG rounded its low frequencies, levels: see `blocks.ts`. Null for a vector, and where none is found. */
  readonly jpegStep?: number | null;
  /** Share of its pixels' density that its detail has: see `detail.ts`. Null for a vector, and where nothing tells it. */
  readonly detailShare?: number | null;
  /** Lines of words in it, as shares of width and height. */
  readonly words?: readonly Box[];
  /** Fonts of text in an SVG that do not ship with the app: it would print in others. */
  readonly missingFonts?: readonly string[];
}

/** What is seen of a picture when it is looked at closely. */
export interface ClosePicture extends PixelFacts {
  /** What stands on its ground of one color, as `thinInk` is what stands on nothing. */
  readonly groundInk: readonly ThinInk[];
}
