import { GUIDES } from '@/core/catalog/template';
import type { Blank } from '@/core/catalog/blank';
import { printedBox } from '@/core/geometry/area';
import { areaEntries, type AreaEntry } from './view';

/** The tallest area is drawn this high; all others follow its scale. */
const TALLEST_PX = 170;
/** However small an area is, it can be seen. */
const MIN_PX = 14;

const [EDGE, TRIM, SAFE, OUTLINE] = GUIDES;

/** Print areas drawn to one scale, with what a file for each must be and a template to draw it in. */
export function Areas({ blank }: { blank: Blank }) {
  const entries = areaEntries(blank);
  const tallest = Math.max(
    ...entries.map(({ geometry }) => Math.max(geometry.heightMm, geometry.widthMm) + 2 * geometry.bleedMm),
    1,
  );
  const scale = TALLEST_PX / tallest;
  const used = new Set(
    entries.flatMap(({ geometry: g }) => [
      TRIM.name,
      SAFE.name,
      ...(g.bleedMm > 0 ? [EDGE.name] : []),
      ...(g.outline ? [OUTLINE.name] : []),
    ]),
  );
  return (
    <>
      <ul className="flex flex-wrap items-end gap-x-7 gap-y-5 p-px">
        {entries.map((entry) => (
          <li key={`${entry.areaKey}/${entry.geometryId}/${entry.applies}`}>
            <AreaFigure blankId={blank.id} entry={entry} scale={scale} />
          </li>
        ))}
      </ul>
      <p className="mt-3 flex flex-wrap gap-x-5 text-tiny text-muted">
        {GUIDES.filter((guide) => used.has(guide.name)).map((guide) => (
          <span key={guide.name} className="inline-flex items-center gap-1.5">
            <span aria-hidden className="inline-block w-4 border-t-2" style={{ borderColor: guide.color }} />
            {guide.name}
          </span>
        ))}
        <span>Drawn to scale.</span>
      </p>
    </>
  );
}

function AreaFigure({ blankId, entry, scale }: { blankId: string; entry: AreaEntry; scale: number }) {
  const { geometry: g, widthPx, heightPx } = entry;
  const box = printedBox(g);
  const [widthMm, heightMm] = [box.right - box.left, box.bottom - box.top];
  const own = Math.max(scale, MIN_PX / Math.min(widthMm, heightMm));
  const template = (form: 'svg' | 'png') =>
    `/api/v1/blanks/${blankId}/template?area=${encodeURIComponent(entry.areaKey)}&geometry=${entry.geometryId}&form=${form}`;
  const title = entry.name;
  const line = { fill: 'none', vectorEffect: 'non-scaling-stroke' } as const;
  return (
    <figure className="text-small">
      <svg
        width={Math.ceil(widthMm * own) + 2}
        height={Math.ceil(heightMm * own) + 2}
        viewBox={`${box.left} ${box.top} ${widthMm} ${heightMm}`}
        overflow="visible"
        role="img"
        aria-label={`${title}, ${g.widthMm} × ${g.heightMm} mm, drawn to scale`}
      >
        <rect x={box.left} y={box.top} width={widthMm} height={heightMm} fill="var(--color-sheet)" />
        {g.bleedMm > 0 && (
          <rect x={box.left} y={box.top} width={widthMm} height={heightMm} stroke={EDGE.color} {...line} />
        )}
        <rect width={g.widthMm} height={g.heightMm} stroke={TRIM.color} {...line} />
        {g.safeMm > 0 && (
          <rect
            x={g.safeMm}
            y={g.safeMm}
            width={g.widthMm - 2 * g.safeMm}
            height={g.heightMm - 2 * g.safeMm}
            stroke={SAFE.color}
            strokeDasharray="3 2"
            {...line}
          />
        )}
        {g.outline && <path d={g.outline} stroke={OUTLINE.color} {...line} />}
      </svg>
      <figcaption className="mt-1.5 leading-snug">
        <span className="font-semibold">{title}</span>
        {entry.applies && <span className="text-muted">, {entry.applies}</span>}
        <span className="block">
          {g.widthMm} × {g.heightMm} mm
        </span>
        <span className="block font-mono text-tiny">
          {widthPx} × {heightPx} px
        </span>
        <span className="block text-tiny text-muted">
          {g.dpi} DPI, {entry.technique}
        </span>
        <span className="block text-tiny text-muted">
          {[g.bleedMm > 0 ? `bleed ${g.bleedMm} mm` : 'no bleed', g.safeMm > 0 ? `safe margin ${g.safeMm} mm` : null]
            .filter(Boolean)
            .join(', ')}
        </span>
        <span className="flex items-center gap-2 text-tiny">
          Template
          {(['svg', 'png'] as const).map((form) => (
            <a
              key={form}
              href={template(form)}
              download
              aria-label={`Template of ${title}${entry.applies ? `, ${entry.applies}` : ''}, ${form.toUpperCase()}`}
              className="inline-grid min-h-6 min-w-7 place-items-center text-primary underline underline-offset-2"
            >
              {form.toUpperCase()}
            </a>
          ))}
        </span>
      </figcaption>
    </figure>
  );
}
