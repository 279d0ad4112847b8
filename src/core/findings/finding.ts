import type { PixelFacts } from '../artwork/pixel-facts';
import type { ThinInk } from '../artwork/strokes';
import type { Box } from '../geometry/box';
import type { SetText } from '../lettering/layout';
import type { Ink } from './ink';
import type { Remedy } from './remedy';

/** Another artwork of the workspace that shows the same picture. */
export interface Twin {
  readonly artworkId: string;
  readonly name: string;
  readonly vector: boolean;
  readonly widthPx: number;
  readonly heightPx: number;
}

export type Severity = 'stop' | 'warn' | 'note';

/** One thing that the checks have to say about a design. */
export interface Finding {
  readonly id: string;
  readonly severity: Severity;
  readonly areaKey: string;
  readonly layerId: string;
  /** The geometry on which it is so, and the part of it, mm of its trim; absent: wherever the layer is. */
  readonly spot?: Spot;
  /** A sentence with numbers. */
  readonly says: string;
  readonly remedy?: Remedy;
  /** Another way to do something about it. */
  readonly also?: Remedy;
}

/** What stops a product until somebody says that it is meant. */
const ACCEPTABLE_STOPS: ReadonlySet<string> = new Set(['fonts-missing']);

/** Whether a person can accept a finding as it stands. */
export const isAcceptable = ({ id, severity }: Pick<Finding, 'id' | 'severity'>): boolean =>
  severity === 'warn' || (severity === 'stop' && ACCEPTABLE_STOPS.has(id.split(':')[0]!));

/** Where on the surface a finding is. */
export interface Spot {
  readonly geometryId: string;
  readonly box: Box;
}

/** What the checks need of an artwork. */
export interface ArtworkSize {
  readonly vector: boolean;
  readonly widthPx: number;
  readonly heightPx: number;
  /** What is visible of it, as shares of width and height; absent: all. */
  readonly visible?: Box | null;
  readonly mainColors?: readonly Ink[];
  /** The one color that runs around it like a box. */
  readonly flatBox?: string | null;
  /** What is left of it without that box. */
  readonly unboxed?: PixelFacts['unboxed'];
  /** Share of what is seen of it that is half transparent. */
  readonly halfTransparent?: number;
  readonly thinInk?: readonly ThinInk[];
  /** The same of what stands on a ground of one color. */
  readonly groundInk?: readonly ThinInk[];
  /** What lies where on it, coarsely. */
  readonly mini?: string;
  /** Its colors as threads would have to tell them apart. */
  readonly threadColors?: readonly Ink[];
  readonly likeness?: string;
  /** Other artworks that show the same picture. */
  readonly twins?: readonly Twin[];
  /** The step to which a JPEG rounded its low frequencies, levels; null where it is fine, or none is found. */
  readonly jpegStep?: number | null;
  /** Share of its pixels' density that its detail has; null where it has no edges to tell by. */
  readonly detailShare?: number | null;
  /** Lines of words in it, as shares of width and height. */
  readonly words?: readonly Box[];
  readonly name?: string;
  /** Made larger than it was by resampling: the width that it had. */
  readonly enlargedFromPx?: number;
  /** The size of the artwork in whose place it was put everywhere. */
  readonly replaced?: { readonly name: string; readonly widthPx: number; readonly heightPx: number } | null;
  /** Fonts of its text that do not ship with the app. */
  readonly missingFonts?: readonly string[];
}

/** What the checks need of a text as it is set. */
export type SetLettering = Pick<SetText, 'missing' | 'borrowed' | 'fits' | 'sizeMm'> &
  Partial<Pick<SetText, 'bounds' | 'borrowedFrom' | 'capMm' | 'smallMm' | 'strokeMm' | 'fitsAtMm'>>;

/** Adds a finding of the layer that is looked at. */
export type Add = (code: string, severity: Severity, says: string, remedy?: Remedy, spot?: Spot, also?: Remedy) => void;
