import { printSizePx, printedBox, type Geometry } from '../geometry/area';
import { ownEntry } from '../own-entry';

/** Colors of the guides: the words for them are `GUIDES`. */
const BLEED = '#c2410c';
const TRIM = '#111111';
const SAFE = '#0f766e';
const OUTLINE = '#6d28d9';

/** What each line of a template means, for the page that offers it. */
export const GUIDES = [
  { name: 'edge of the file, bleed included', color: BLEED },
  { name: 'trim: what is left after cutting', color: TRIM },
  { name: 'safe margin: keep what matters inside', color: SAFE },
  { name: 'outline: nothing outside is printed', color: OUTLINE },
] as const;

const escape = (text: string) =>
  text.replace(/[<>&"]/g, (c) => ownEntry({ '<': '&lt;', '>': '&gt;', '&': '&amp;', '"': '&quot;' }, c)!);

/**
 * A template of a print area as SVG of the exact pixel size of its print file, with one user unit per mm and the origin at the trim's
 * corner: bleed edge, trim, safe margin and outline as lines on nothing, each in a group with its name. Line widths follow the size of
 * the file, so that they are seen at any.
 */
export function templateSvg(g: Geometry, title: string): string {
  const { widthPx, heightPx } = printSizePx(g);
  const box = printedBox(g);
  const line = Math.max(0.3, Math.min(g.widthMm, g.heightMm) / 400);
  const dash = `${line * 6} ${line * 4}`;
  const [width, height] = [box.right - box.left, box.bottom - box.top];
  const rect = (inset: number, color: string, dashed: boolean) =>
    `<rect x="${inset}" y="${inset}" width="${g.widthMm - 2 * inset}" height="${g.heightMm - 2 * inset}" fill="none" stroke="${color}" stroke-width="${line}"${dashed ? ` stroke-dasharray="${dash}"` : ''}/>`;
  const half = line / 2;
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${widthPx}" height="${heightPx}" viewBox="${box.left} ${box.top} ${width} ${height}" preserveAspectRatio="none">`,
    `<title>${escape(title)}</title>`,
    `<desc>${escape(`${g.widthMm} × ${g.heightMm} mm at ${g.dpi} DPI, bleed ${g.bleedMm} mm, safe margin ${g.safeMm} mm. Delete the guides before you export.`)}</desc>`,
    `<g id="bleed-edge"><rect x="${box.left + half}" y="${box.top + half}" width="${width - line}" height="${height - line}" fill="none" stroke="${BLEED}" stroke-width="${line}"/></g>`,
    `<g id="trim">${rect(0, TRIM, false)}</g>`,
    `<g id="safe-margin">${rect(g.safeMm, SAFE, true)}</g>`,
    g.outline
      ? `<g id="outline"><path d="${escape(g.outline)}" fill="none" stroke="${OUTLINE}" stroke-width="${line}"/></g>`
      : '',
    `<g id="center"><path d="M ${g.widthMm / 2} ${-g.bleedMm} V ${g.heightMm + g.bleedMm} M ${-g.bleedMm} ${g.heightMm / 2} H ${g.widthMm + g.bleedMm}" fill="none" stroke="${TRIM}" stroke-opacity="0.25" stroke-width="${half}"/></g>`,
    '</svg>',
  ]
    .filter(Boolean)
    .join('\n');
}
