import { randomUUID } from 'node:crypto';
import fs from 'node:fs/promises';
import path from 'node:path';
import sharp from 'sharp';
import { printPdf, type PdfPicture } from '@/core/print/pdf';
import { readPng } from '@/core/print/png-chunks';
import { MAX_PIXELS } from '../images/limits';
import { packRows, rowsOf } from '../images/png';
import { serve } from '../studio/serve';
import { studioPlaces } from '../studio/folder';
import { printSheet } from './printer';
import type { Printed, PrintOrder } from './printers';

/** The process that draws print files, one at a time. */
sharp.concurrency(1);
sharp.cache(false);
const { output, read } = studioPlaces();
const CLEAR_ABOVE_MB = 120;

/** An opaque PNG goes into a PDF as it is; one with alpha is packed again as color and as mask, since PDF keeps these apart. */
async function pdfPictures(png: Buffer): Promise<{ color: PdfPicture; alpha: PdfPicture | null }> {
  const own = readPng(png);
  if (own.color === 'rgb') return { color: own, alpha: null };
  const { widthPx, heightPx } = own;
  const data = await sharp(png, { limitInputPixels: MAX_PIXELS }).raw().toBuffer();
  const rows = rowsOf({ widthPx, heightPx, data: new Uint8Array(data.buffer, data.byteOffset, data.byteLength) });
  const color = { widthPx, heightPx, color: 'rgb' as const, packed: await packRows(rows, 'rgb') };
  return { color, alpha: { widthPx, heightPx, color: 'gray' as const, packed: await packRows(rows, 'gray') } };
}

async function make(order: PrintOrder, file: string): Promise<Omit<Printed, 'file'>> {
  switch (order.kind) {
    case 'sheet': {
      const png = await printSheet(read, order.sheet);
      await fs.writeFile(file, png);
      const { widthPx, heightPx } = readPng(png);
      return { widthPx, heightPx };
    }
    case 'pdf': {
      const { color, alpha } = await pdfPictures(await read(order.png));
      await fs.writeFile(file, Buffer.concat(printPdf(order.geometry, color, alpha, order.title)));
      return { widthPx: color.widthPx, heightPx: color.heightPx };
    }
    case 'proof': {
      const { width, height } = await sharp(await read(order.png), { limitInputPixels: MAX_PIXELS })
        .resize(order.sidePx, order.sidePx, { fit: 'inside' })
        .webp({ quality: 84 })
        .toFile(file);
      return { widthPx: width, heightPx: height };
    }
  }
}

serve<PrintOrder, Printed>(async (order) => {
  const file = path.join(output, randomUUID());
  return { file, ...(await make(order, file)) };
}, CLEAR_ABOVE_MB);
