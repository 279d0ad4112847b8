import { TypicaError } from '@/core/errors';
import type { Geometry } from '@/core/geometry/area';
import type { SheetPlan } from '@/core/print/plan';
import type { BlobFiles } from '@/ports/blobs';
import { imageRoom } from '../images/image-room';
import { PRINT_SECONDS, PRINTER_BASE_MB, PRINTER_MB } from '../images/limits';
import { ProcessPool } from '../processes/pool';
import { openStudio, programOf } from '../studio/folder';
import { roomOf, sourcesOf } from './printer';
import { processWide } from '../process-wide';

/** What a printer makes: a sheet's PNG, the PDF out of that, or a small picture of it. */
export type PrintOrder =
  | { readonly kind: 'sheet'; readonly sheet: SheetPlan }
  | {
      readonly kind: 'pdf';
      readonly png: string;
      readonly geometry: Geometry;
      readonly title: string;
      readonly pixels: number;
    }
  | { readonly kind: 'proof'; readonly png: string; readonly sidePx: number };

/** A finished file, for whoever asked to take away. */
export interface Printed {
  readonly file: string;
  readonly widthPx: number;
  readonly heightPx: number;
}

/** One more than this machine is likely to have cores: a file that takes long makes way, and must not hold up the others. */
const SIZE = 3;

/** Of what a sheet is drawn from, the most that is held at a time: while libvips hands it over there is half of it again. */
const WHILE_DRAWN = 1.7;
const BASE_BYTES = PRINTER_BASE_MB * 1024 * 1024;

function bytesOf(order: PrintOrder): number {
  if (order.kind === 'sheet') return BASE_BYTES + WHILE_DRAWN * roomOf(order.sheet);
  return BASE_BYTES + (order.kind === 'pdf' ? order.pixels * 8 : 0);
}

const pools = processWide('printers', () => new Map<string, ProcessPool<PrintOrder, Printed>>());

/** The printers of this process for a home. */
function printersOf(home: string, files: BlobFiles): ProcessPool<PrintOrder, Printed> {
  const have = pools.get(home);
  if (have) return have;
  const pool = new ProcessPool<PrintOrder, Printed>({
    name: 'printer',
    open: () =>
      openStudio<PrintOrder>({
        home,
        files,
        program: programOf('printer'),
        heapMb: 200,
        needs: (order) => (order.kind === 'sheet' ? sourcesOf(order.sheet) : [order.png]),
      }),
    size: SIZE,
    inFlight: 1,
    seconds: PRINT_SECONDS,
    memoryMb: PRINTER_MB,
    room: imageRoom,
    bytesOf,
    idleMs: 20_000,
    tooSlow: (seconds) =>
      new TypicaError(
        'invalid',
        'print-too-slow',
        `This print file took longer than ${seconds} seconds to draw and was stopped. Simplify the artwork on it, or upload it as PNG.`,
      ),
    tooHeavy: (memoryMb) =>
      new TypicaError(
        'invalid',
        'print-too-heavy',
        `This print file needed more than ${memoryMb} MB to draw and was stopped. Simplify the artwork on it, or upload it as PNG.`,
      ),
  });
  pools.set(home, pool);
  return pool;
}

/** Draws in a process of its own. Throws `print-too-slow`, `print-too-heavy`, `studio-busy`; when `signal` is aborted, drawing ends. */
export const printIn = (
  home: string,
  files: BlobFiles,
  order: PrintOrder,
  from: { readonly owner: string; readonly signal?: AbortSignal },
): Promise<Printed> => printersOf(home, files).ask(order, from);
