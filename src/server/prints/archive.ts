import { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import { TypicaError } from '@/core/errors';
import { manifestCsv, manifestEntry, withUniqueFiles, type ManifestEntry } from '@/core/print/manifest';
import { planPrintFiles } from '@/core/print/plan';
import type { Context } from '../context';
import type { ProductDesign } from '../products/bundle';
import { ensurePrintForm, formOf, type For, type PrintFormat } from './print-files';

/** The same day for every entry, so that the same files give the same bytes. */
const NO_TIME = new Date(Date.UTC(2000, 0, 1));

/**
 * All print files of a product as a ZIP, with a manifest as CSV and as JSON; files that are not made yet are made first. With
 * form `pdf` goods with bleed go out as PDF. Files are not packed again: they are packed already. Throws `nothing-to-print`.
 */
export async function printArchive(
  ctx: Context,
  whom: For,
  design: ProductDesign,
  form: PrintFormat = 'png',
): Promise<{ stream: ReadableStream<Uint8Array>; entries: readonly ManifestEntry[] }> {
  const { product, blank, sources } = design;
  const plans = planPrintFiles(product.document, blank, sources);
  if (plans.length === 0)
    throw new TypicaError(
      'invalid',
      'nothing-to-print',
      'There is nothing to print yet: place something on an area and choose at least one variant.',
    );
  const made: ManifestEntry[] = [];
  for (const plan of plans)
    made.push(manifestEntry(blank, plan, formOf(plan, form), (await ensurePrintForm(ctx, whom, plan, form)).sha256));
  const entries = withUniqueFiles(made);
  const zip = new ZipFile();
  const options = { mtime: NO_TIME, mode: 0o100644, compress: false, forceDosTimestamp: true };
  const about = {
    product: product.title,
    revision: product.revision,
    blank: blank.name,
    partner: blank.partner.name,
    files: entries,
  };
  zip.addBuffer(Buffer.from(`${JSON.stringify(about, null, 2)}\n`), 'manifest.json', options);
  zip.addBuffer(Buffer.from(manifestCsv(entries)), 'manifest.csv', options);
  for (const entry of entries) {
    // Opened when its turn comes: a set can be larger than memory.
    zip.addReadStreamLazy(entry.file, options, (take) => {
      ctx.files.stream(entry.sha256).then(
        (stream) => take(null, Readable.fromWeb(stream as never)),
        (error: unknown) => take(error, null as never),
      );
    });
  }
  zip.end();
  return { stream: Readable.toWeb(zip.outputStream as Readable) as ReadableStream<Uint8Array>, entries };
}
