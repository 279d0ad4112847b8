import { printedBox, trimBox, type Geometry } from '../geometry/area';
import { MM_PER_INCH, POINTS_PER_INCH } from '../units/length';
import { srgbProfile } from './icc';
import type { PngParts } from './png-chunks';

/** A picture as PDF carries it: the rows of PNG in one zlib stream, as they are. */
export type PdfPicture = PngParts;

const COLORS: Record<PdfPicture['color'], number> = { gray: 1, rgb: 3, rgba: 4 };

/** Points, to four decimals: finer than a pixel at any density that is printed. */
const points = (mm: number): string => String(Math.round((mm / MM_PER_INCH) * POINTS_PER_INCH * 1e4) / 1e4);

const bytesOf = (text: string): Uint8Array => Uint8Array.from(text, (letter) => letter.charCodeAt(0));

/** An image XObject (ISO 32000-1, §8.9.5): FlateDecode with PNG's predictors (§7.4.4.4, predictor 15), 8 bits a component. */
const imageDictionary = ({ widthPx, heightPx, color }: PdfPicture, more: string): string =>
  `<< /Type /XObject /Subtype /Image /Width ${widthPx} /Height ${heightPx} /BitsPerComponent 8 /ColorSpace ${color === 'gray' ? '/DeviceGray' : '/DeviceRGB'} /Filter /FlateDecode /DecodeParms << /Predictor 15 /Colors ${COLORS[color]} /BitsPerComponent 8 /Columns ${widthPx} >>${more}`;

/**
 * A page of one picture for a good with bleed (ISO 32000-1, §14.11.2): the media is the printed sheet, bleed included, and TrimBox is what
 * the buyer gets. `color` is RGB and opaque; where a sheet is not opaque, `alpha` holds its alpha as gray and becomes a soft mask. The
 * pictures' packed data go into the file as they are. The same input gives the same bytes: there is no date and no random id.
 */
export function printPdf(geometry: Geometry, color: PdfPicture, alpha: PdfPicture | null, title: string): Uint8Array[] {
  const sheet = printedBox(geometry);
  const trim = trimBox(geometry);
  const [width, height] = [sheet.right - sheet.left, sheet.bottom - sheet.top];
  // PDF counts from the bottom left corner of the sheet, upward.
  const box = (left: number, top: number, right: number, bottom: number) =>
    `[${points(left - sheet.left)} ${points(sheet.bottom - bottom)} ${points(right - sheet.left)} ${points(sheet.bottom - top)}]`;
  const whole = box(sheet.left, sheet.top, sheet.right, sheet.bottom);
  const draw = `q ${points(width)} 0 0 ${points(height)} 0 0 cm /Sheet Do Q`;
  const profile = srgbProfile();
  // The intent says which RGB is meant (§14.11.5); its profile is the object after the sheet, the text and the soft mask.
  const profileAt = alpha ? 8 : 7;
  const intent = `<< /Type /OutputIntent /S /GTS_PDFX /OutputConditionIdentifier (sRGB IEC61966-2.1) /RegistryName (http://www.color.org) /Info (sRGB IEC61966-2.1) /DestOutputProfile ${profileAt} 0 R >>`;
  const objects: (readonly [dictionary: string, stream: readonly Uint8Array[] | null])[] = [
    [`<< /Type /Catalog /Pages 2 0 R /OutputIntents [${intent}] >>`, null],
    ['<< /Type /Pages /Kids [3 0 R] /Count 1 >>', null],
    [
      `<< /Type /Page /Parent 2 0 R /MediaBox ${whole} /CropBox ${whole} /BleedBox ${whole} /TrimBox ${box(trim.left, trim.top, trim.right, trim.bottom)} /Resources << /XObject << /Sheet 5 0 R >> >> /Contents 4 0 R >>`,
      null,
    ],
    ['<<', [bytesOf(draw)]],
    [imageDictionary(color, alpha ? ' /SMask 7 0 R' : ''), color.packed],
    [`<< /Title ${textString(title)} /Creator (Typica) >>`, null],
    ...(alpha ? [[imageDictionary(alpha, ''), alpha.packed] as const] : []),
    ['<< /N 3 /Alternate /DeviceRGB', [profile]],
  ];
  const parts: Uint8Array[] = [];
  let length = 0;
  const write = (bytes: Uint8Array) => {
    parts.push(bytes);
    length += bytes.length;
  };
  // A comment with bytes above 127 says to programs that carry files about that this is not text (§7.5.2).
  write(bytesOf('%PDF-1.4\n%\xe2\xe3\xcf\xd3\n'));
  const offsets = objects.map(([dictionary, stream], i) => {
    const at = length;
    if (!stream) write(bytesOf(`${i + 1} 0 obj\n${dictionary}\nendobj\n`));
    else {
      const size = stream.reduce((sum, part) => sum + part.length, 0);
      write(bytesOf(`${i + 1} 0 obj\n${dictionary} /Length ${size} >>\nstream\n`));
      stream.forEach(write);
      write(bytesOf('\nendstream\nendobj\n'));
    }
    return at;
  });
  const table = offsets.map((at) => `${String(at).padStart(10, '0')} 00000 n \n`).join('');
  write(
    bytesOf(
      `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${table}trailer\n<< /Size ${objects.length + 1} /Root 1 0 R /Info 6 0 R >>\nstartxref\n${length}\n%%EOF\n`,
    ),
  );
  return parts;
}

/** A text string (§7.9.2.2): UTF-16 with its mark, in hexadecimal. */
const textString = (text: string): string =>
  `<FEFF${Array.from({ length: text.length }, (_, i) => text.charCodeAt(i).toString(16).padStart(4, '0')).join('')}>`;
