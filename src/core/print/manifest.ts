import { areaTitle, colorOption, parseVariantKey, SIZE_OPTION, type Blank } from '../catalog/blank';
import { safeLine } from '../csv/safe';
import type { PrintFilePlan } from './plan';
import { ownEntry } from '../own-entry';

/** One print file as its manifest tells a partner of it. */
export interface ManifestEntry {
  readonly file: string;
  readonly area: string;
  readonly areaKey: string;
  readonly geometryId: string;
  readonly technique: string;
  /** Names of the values for which it is printed; none where the blank has no such option. */
  readonly sizes: readonly string[];
  readonly colors: readonly string[];
  /** The partner's own codes of the variants. */
  readonly skus: readonly string[];
  /** Of the trim. */
  readonly widthMm: number;
  readonly heightMm: number;
  readonly bleedMm: number;
  readonly widthPx: number;
  readonly heightPx: number;
  readonly dpi: number;
  readonly sha256: string;
}

/** A print file in the manifest, once its bytes are known. */
export function manifestEntry(blank: Blank, plan: PrintFilePlan, form: 'png' | 'pdf', sha256: string): ManifestEntry {
  const { geometry, areaKey, geometryId } = plan.sheet;
  const color = colorOption(blank);
  const used = plan.variantKeys.map(parseVariantKey);
  const names = (code: string | undefined) =>
    blank.options
      .find((option) => option.code === code)
      ?.values.filter((value) => used.some((values) => ownEntry(values, code!) === value.code))
      .map((value) => value.name) ?? [];
  const keys = new Set(plan.variantKeys);
  return {
    file: `${plan.slug}.${form}`,
    area: areaTitle(
      blank,
      blank.areas.find((area) => area.key === areaKey)!,
    ),
    areaKey,
    geometryId,
    technique: geometry.technique,
    sizes: names(SIZE_OPTION),
    colors: names(color?.code),
    skus: blank.variants.filter((variant) => keys.has(variant.key)).map((variant) => variant.partnerSku),
    widthMm: geometry.widthMm,
    heightMm: geometry.heightMm,
    bleedMm: geometry.bleedMm,
    widthPx: plan.widthPx,
    heightPx: plan.heightPx,
    dpi: geometry.dpi,
    sha256,
  };
}

const COLUMNS = [
  'file',
  'area',
  'geometryId',
  'technique',
  'sizes',
  'colors',
  'skus',
  'widthMm',
  'heightMm',
  'bleedMm',
  'widthPx',
  'heightPx',
  'dpi',
  'sha256',
] as const;

/** The manifest as CSV (RFC 4180); lists are joined by `|`. */
export const manifestCsv = (entries: readonly ManifestEntry[]): string =>
  safeLine(COLUMNS) +
  entries
    .map((entry) =>
      safeLine(
        COLUMNS.map((column) => {
          const value = entry[column];
          return typeof value === 'object' ? value.join('|') : String(value);
        }),
      ),
    )
    .join('');

/** Names that are there twice get a number: two versions on many colors can have the same short name. */
export function withUniqueFiles(entries: readonly ManifestEntry[]): ManifestEntry[] {
  const seen = new Map<string, number>();
  return entries.map((entry) => {
    const n = (seen.get(entry.file) ?? 0) + 1;
    seen.set(entry.file, n);
    return n === 1 ? entry : { ...entry, file: entry.file.replace(/(\.\w+)$/, `_${n}$1`) };
  });
}
