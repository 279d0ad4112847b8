import { areaTitle, type Blank } from '../catalog/blank';
import type { ProductDocument } from '../document/document';
import { printedBox } from '../geometry/area';
import { contains } from '../geometry/box';
import { layerMatrix } from '../geometry/fit';
import { effectiveDpi, placedBox, sharpWidthMm } from '../geometry/placement';
import { chosenGeometryIds } from '../listing/form';

export type Severity = 'stop' | 'warn' | 'note';

/** One thing that the checks have to say about a design. */
export interface Finding {
  readonly id: string;
  readonly severity: Severity;
  readonly areaKey: string;
  readonly layerId: string;
  /** A sentence with numbers. */
  readonly says: string;
}

/** What the checks need of an artwork. */
export interface ArtworkSize {
  readonly vector: boolean;
  readonly widthPx: number;
  readonly heightPx: number;
}

/**
 * Effective DPI below which a print looks soft, and below which it is blurry, as shares of the technique's own density: two thirds and
 * one third, 200 and 100 of 300 DPI (common practice, no source).
 */
const SOFT = 2 / 3;
const BLURRY = 1 / 3;

const mm = (value: number) => `${Math.round(value)} mm`;

/** Resolution and place of every layer in every geometry in use; the worst geometry speaks for a layer. */
export function findFindings(
  doc: ProductDocument,
  blank: Blank,
  artworks: { readonly [id: string]: ArtworkSize | undefined },
): Finding[] {
  const findings: Finding[] = [];
  for (const area of blank.areas) {
    const geometryIds = chosenGeometryIds(doc, blank, area.key);
    const inUse = geometryIds.length > 0 ? geometryIds : area.geometries.slice(0, 1).map((g) => g.geometryId);
    for (const [layerId, layer] of Object.entries(doc.areas[area.key]?.layers ?? {})) {
      const artwork = artworks[layer.artworkId];
      if (!artwork || layer.hidden) continue;
      const placed = inUse.map((id) => ({
        geometry: blank.geometries[id]!,
        matrix: layerMatrix(layer, artwork.heightPx / artwork.widthPx, id, blank.geometries),
      }));
      const about = { areaKey: area.key, layerId };
      if (artwork.vector)
        findings.push({
          id: `vector:${layerId}`,
          ...about,
          severity: 'note',
          says: `${layer.name} is a vector: sharp at any size.`,
        });
      else {
        const worst = placed
          .map((p) => ({ ...p, dpi: effectiveDpi(p.matrix, artwork.widthPx, artwork.heightPx) }))
          .reduce((a, b) => (b.dpi / b.geometry.dpi < a.dpi / a.geometry.dpi ? b : a));
        const sharp = sharpWidthMm(artwork.widthPx, worst.geometry.dpi);
        const share = worst.dpi / worst.geometry.dpi;
        if (share < SOFT) {
          findings.push({
            id: `resolution:${layerId}`,
            ...about,
            severity: share < BLURRY ? 'stop' : 'warn',
            says: `${layer.name} has ${Math.round(worst.dpi)} DPI on the ${areaTitle(blank, area).toLocaleLowerCase('en')}; ${worst.geometry.dpi} is wanted. It is sharp up to ${mm(sharp)} wide.`,
          });
        } else if (share >= 1)
          findings.push({
            id: `sharp:${layerId}`,
            ...about,
            severity: 'note',
            says: `${layer.name} is sharp up to ${mm(sharp)} wide (${worst.geometry.dpi} DPI).`,
          });
      }
      const outside = placed.find((p) => !contains(printedBox(p.geometry), placedBox(p.matrix), 0.05));
      if (outside && layer.fit !== 'fill') {
        const [box, sheet] = [placedBox(outside.matrix), printedBox(outside.geometry)];
        const over = Math.max(
          sheet.left - box.left,
          sheet.top - box.top,
          box.right - sheet.right,
          box.bottom - sheet.bottom,
        );
        findings.push({
          id: `outside:${layerId}`,
          ...about,
          severity: 'warn',
          says: `${layer.name} reaches ${over.toFixed(1)} mm outside the ${areaTitle(blank, area).toLocaleLowerCase('en')}; that part is not printed.`,
        });
      }
    }
  }
  const weight: Record<Severity, number> = { stop: 0, warn: 1, note: 2 };
  return findings.sort((a, b) => weight[a.severity] - weight[b.severity]);
}
