import { LRUCache } from 'lru-cache';
import type { Blank } from '@/core/catalog/blank';
import type { ProductDocument } from '@/core/document/document';
import { THREADS_DPI, type ThreadPlan } from '@/core/embroidery/choose';
import { sew } from '@/core/embroidery/sew';
import type { Box } from '@/core/geometry/box';
import { axisLengths, chain, type Matrix } from '@/core/geometry/matrix';
import { sheetsInView, type SeenAreas } from '@/core/listing/pictures';
import type { InkedPath } from '@/core/paths/path';
import { drawInks } from '@/core/paths/scan';
import { drawFaded } from '@/core/print/faded';
import { sheetContent, type ArtworkSource, type PlannedLayer, type SheetPlan } from '@/core/print/plan';
import type { Raster } from '@/core/print/pixels';
import { drawAffine, halve } from '@/core/print/raster';
import { fromSource, letteringInks, ornamentInks, sheetFrame, threadPlan, tinted } from '@/core/print/sheet-drawing';
import { finishSheet, planArt } from '@/core/shot/art';
import type { FabricColor } from '@/core/shot/fabric';
import { finishOf, type Finish } from '@/core/shot/finish';
import type { AreaView } from '@/core/shot/area-view';
import type { AreaArt, ShotKernel } from '@/core/shot/kernel';
import { LayerStack } from './layer-stack';
import { ownEntry } from '@/core/own-entry';

/** What a proof is drawn of. */
export interface ProofScene {
  readonly areas: ProductDocument['areas'];
  readonly blank: Blank;
  readonly shot: { readonly areas: SeenAreas };
  readonly artworks: ReadonlyMap<string, ArtworkSource>;
  /** Texts as they are set, by layer: what is drawn in the box, mm. */
  readonly texts: { readonly [layerId: string]: readonly InkedPath[] };
}

const sheetsOf = (scene: ProofScene, color: string | null): SheetPlan[] =>
  sheetsInView(scene, scene.blank, scene.shot, color, scene.artworks);

/** The artworks that a scene needs on a color. */
export const artworksIn = (scene: ProofScene, color: string | null): ArtworkSource[] =>
  sheetsOf(scene, color).flatMap((sheet) =>
    sheet.layers.flatMap((layer) => (layer.kind === 'artwork' ? [layer.artwork] : [])),
  );

/** An artwork with its halved copies: while it is dragged it is drawn from one about as fine as the picture. */
class Mips {
  private readonly levels: Raster[];

  constructor(full: Raster) {
    this.levels = [full];
  }

  /** The coarsest copy that is still fine enough for `px` pixels along its longer side. */
  for(px: number): Raster {
    let k = 0;
    for (;;) {
      const here = this.levels[k]!;
      if (Math.max(here.widthPx, here.heightPx) <= px * 1.5 || Math.min(here.widthPx, here.heightPx) <= 1) return here;
      this.levels[k + 1] ??= halve(here);
      k += 1;
    }
  }
}

/** Artworks that a proof holds; a design has far fewer. */
const MAX_HELD = 60;

/**
 * Draws the proof as a design is being changed: holds what stays the same between two frames. One for each shot in view; without React, and
 * without knowing where pictures come from.
 */
export class LiveProof {
  private readonly mips = new LRUCache<string, Mips>({ max: MAX_HELD });
  private readonly printed = new Map<string, string>();
  private readonly stacks = new Map<string, LayerStack>();
  private texts: ProofScene['texts'] | null = null;
  private threads: { of: string; plan: ThreadPlan } | null = null;

  /** The kernel gives four bytes a pixel. */
  constructor(private readonly kernel: ShotKernel) {}

  get widthPx(): number {
    return this.kernel.widthPx;
  }
  get heightPx(): number {
    return this.kernel.heightPx;
  }

  /** Takes in an artwork's pixels, premultiplied. */
  hold(sha256: string, raster: Raster): void {
    this.mips.set(sha256, new Mips(raster));
    this.forget();
  }

  /** What was drawn without something that has come since is drawn again. */
  private forget(): void {
    this.printed.clear();
    this.stacks.clear();
    this.threads = null;
  }

  holds(sha256: string): boolean {
    return this.mips.has(sha256);
  }

  /** The picture on a color, RGBA; good until the next call. Areas that have not changed since the last are not drawn again. */
  draw(scene: ProofScene, color: string | null, fabric: FabricColor): Uint8Array {
    const { blank } = scene;
    // Letters are set beside: they come later than the layer that they belong to.
    if (scene.texts !== this.texts) this.forget();
    this.texts = scene.texts;
    const sheets = sheetsOf(scene, color);
    for (const areaKey of Object.keys(scene.shot.areas)) {
      const sheet = sheets.find((one) => one.areaKey === areaKey);
      const content = sheet ? JSON.stringify(sheetContent(sheet)) : '';
      if (this.printed.get(areaKey) === content) continue;
      const technique = sheet?.geometry.technique ?? 'giclee';
      const finish = finishOf(technique, blank.material);
      const view = this.kernel.viewOf(areaKey);
      this.kernel.print(areaKey, sheet && view ? this.drawArt(scene, sheet, finish, view) : null, finish);
      this.printed.set(areaKey, content);
    }
    return this.kernel.picture(fabric);
  }

  private drawArt(scene: ProofScene, sheet: SheetPlan, finish: Finish, view: AreaView): AreaArt {
    const { geometry } = sheet;
    const { dpi, window } = planArt(geometry, finish, view);
    const raster = this.drawLayers(scene, sheet, dpi, window, this.stackOf(sheet.areaKey));
    if (sheet.threads) {
      // As for print files: threads are chosen at one density for all.
      const of = JSON.stringify(sheetContent(sheet));
      if (this.threads?.of !== of) {
        const plan = threadPlan(this.drawLayers(scene, sheet, THREADS_DPI), sheet.threads);
        this.threads = { of, plan };
      }
      sew(raster, this.threads.plan, sheet.threads.swaps);
    }
    return finishSheet(raster, geometry, finish, { dpi, window });
  }

  private stackOf(areaKey: string): LayerStack {
    const stack = this.stacks.get(areaKey) ?? new LayerStack();
    this.stacks.set(areaKey, stack);
    return stack;
  }

  private drawLayers(
    scene: ProofScene,
    { geometry, layers }: SheetPlan,
    dpi: number,
    window?: Box,
    stack = new LayerStack(),
  ): Raster {
    const { left, top, right, bottom, widthPx, heightPx, mmToPx } = sheetFrame(geometry, dpi, window ?? null);
    return stack.draw(
      JSON.stringify([dpi, left, top, right, bottom]),
      layers.map((layer) => JSON.stringify(layer)),
      { widthPx, heightPx },
      (i, target) =>
        drawFaded(target, layers[i]!.opacity ?? 1, (own) =>
          this.drawLayer(scene, own, layers[i]!, chain(layers[i]!.unitToMm, mmToPx)),
        ),
    );
  }

  private drawLayer(scene: ProofScene, target: Raster, layer: PlannedLayer, unitToPx: Matrix): void {
    if (layer.kind === 'ornament') return drawInks(target, ornamentInks(layer), unitToPx);
    if (layer.kind === 'text') {
      const own = Object.values(scene.areas).flatMap(({ layers }) => ownEntry(layers, layer.layerId) ?? [])[0];
      const fill = own?.kind === 'text' ? own.lettering.fill : null;
      const set = ownEntry(scene.texts, layer.layerId) ?? [];
      // On another color a text can be of another fill; it is set only once.
      const filled = set.map(({ path, color }) => ({ path, color: color === fill ? layer.lettering.fill : color }));
      return drawInks(target, letteringInks(layer, filled), unitToPx);
    }
    const sides = axisLengths(unitToPx);
    let source = this.mips.get(layer.artwork.sha256)?.for(Math.max(sides.x, sides.y));
    if (!source) return;
    if (layer.tint) source = tinted(source, layer.tint);
    drawAffine(target, source, fromSource(source, unitToPx));
  }
}
