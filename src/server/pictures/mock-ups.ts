import { parseHex } from '@/core/artwork/color';
import { printedBox } from '@/core/geometry/area';
import { contentHash } from '@/core/listing/canonical';
import type { PicturePlan } from '@/core/listing/pictures';
import { sheetContent, type SheetPlan } from '@/core/print/plan';
import { composePicture, newInk, warpInk, type Ink } from '@/core/shot/kernel';
import type { Shot } from '@/core/shot/shot';
import { MM_PER_INCH } from '@/core/units/length';
import type { Context } from '../context';
import { readBlob } from '../blobs/blobs';
import { composeSheet } from '../images/compose';
import { encodeJpeg } from '../images/encode';
import { loadShot } from '../images/shots';
import { ensureRendering, type Rendering } from './renderings';

/** `full` is what shops get; `proof` is half of it, for the proof rail and lists. */
export type PictureSize = 'full' | 'proof';

const FACTOR: Record<PictureSize, number> = { full: 1, proof: 2 };

const inks = new Map<string, Promise<Ink | null>>();
const KEPT_INKS = 4;

/** The design warped into a shot; kept, since it is the same for every fabric color. */
function loadInk(ctx: Context, plan: PicturePlan, shot: Shot, factor: number): Promise<Ink | null> {
  const key = contentHash({
    shot: plan.shot.contentHash,
    factor,
    sheets: plan.sheets.map((sheet) => [sheet.areaKey, sheetContent(sheet)]),
  });
  const have = inks.get(key);
  if (have) return have;
  const making = makeInk(ctx, plan.sheets, shot);
  inks.set(key, making);
  making.catch(() => inks.delete(key));
  while (inks.size > KEPT_INKS) inks.delete(inks.keys().next().value!);
  return making;
}

async function makeInk(ctx: Context, sheets: readonly SheetPlan[], shot: Shot): Promise<Ink | null> {
  const inView = sheets.filter((sheet) => shot.areas[sheet.areaKey]);
  if (inView.length === 0) return null;
  const ink = newInk(shot);
  for (const sheet of inView) {
    const area = shot.areas[sheet.areaKey]!;
    const box = printedBox(sheet.geometry);
    // About one and a half art pixels for each picture pixel: finer than is seen, no finer.
    const pxPerMm = 1.5 * densestPxPerMm(shot, sheet.areaKey) || 4;
    const raster = await composeSheet((sha256) => readBlob(ctx, sha256), sheet, pxPerMm * MM_PER_INCH);
    warpInk(ink, shot, area, {
      raster,
      leftMm: box.left,
      topMm: box.top,
      pxPerMm: raster.widthPx / (box.right - box.left),
    });
  }
  return ink;
}

/** Picture pixels per mm on the part of the area that is seen largest: the tenth of its pixels with the finest steps, less any noise. */
function densestPxPerMm(shot: Shot, areaKey: string): number {
  const { coverage, u, uMm } = shot.areas[areaKey]!;
  const mmPerStep = (uMm[1] - uMm[0]) / 65535;
  const steps: number[] = [];
  for (let i = 1; i < coverage.length; i += 97) {
    if (coverage[i] === 255 && coverage[i - 1] === 255) steps.push(Math.abs(u[i]! - u[i - 1]!) * mmPerStep);
  }
  if (steps.length === 0) return 0;
  const mmPerPx = steps.sort((a, b) => a - b)[Math.floor(steps.length * 0.1)]!;
  return Math.min(12, 1 / Math.max(mmPerPx, 0.05));
}

/** The mock-up of a plan, made when it is not there. */
export function ensureMockup(
  ctx: Context,
  workspaceId: string,
  plan: PicturePlan,
  size: PictureSize,
): Promise<Rendering> {
  const key = size === 'full' ? plan.key : contentHash({ of: plan.key, size });
  return ensureRendering(ctx, workspaceId, key, 'mock-up', async () => {
    const factor = FACTOR[size];
    const shot = await loadShot(ctx, plan.shot, factor);
    const ink = await loadInk(ctx, plan, shot, factor);
    const rgb = composePicture(shot, parseHex(plan.hex), ink);
    return {
      bytes: await encodeJpeg(rgb, shot.widthPx, shot.heightPx),
      mediaType: 'image/jpeg',
      widthPx: shot.widthPx,
      heightPx: shot.heightPx,
    };
  });
}
