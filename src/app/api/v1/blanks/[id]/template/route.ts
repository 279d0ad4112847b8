import { attachment } from '@/server/http/attachment';
import { areaTitle } from '@/core/catalog/blank';
import { notFound } from '@/core/errors';
import { templateSvg } from '@/core/catalog/template';
import { loadBlank } from '@/server/catalog/blanks';
import { route } from '@/server/http/route';
import { templatePng } from '@/server/images/template';
import { ownEntry } from '@/core/own-entry';

/** A template of a print area at the pixel size of its print file: `?area=main.front&geometry=g…&form=png` (or `svg`). */
export const GET = route<{ id: string }>('read', async ({ ctx, params, query }) => {
  const blank = await loadBlank(ctx, params.id);
  const area = blank.areas.find((a) => a.key === query.get('area'));
  if (!area) throw notFound('print area of this blank', query.get('area') ?? '');
  const geometryId = query.get('geometry') ?? area.geometries[0]!.geometryId;
  const geometry = area.geometries.some((g) => g.geometryId === geometryId)
    ? ownEntry(blank.geometries, geometryId)
    : undefined;
  if (!geometry) throw notFound('geometry of this area', geometryId);
  const form = query.get('form') === 'png' ? 'png' : 'svg';
  const svg = templateSvg(geometry, `${blank.name}, ${areaTitle(blank, area)}`);
  const fileName = `${blank.name} ${areaTitle(blank, area)} ${geometry.widthMm}x${geometry.heightMm} mm.${form}`;
  return new Response(form === 'png' ? new Uint8Array(await templatePng(svg, geometry.dpi)) : svg, {
    headers: {
      'content-type': form === 'png' ? 'image/png' : 'image/svg+xml',
      'content-disposition': attachment(fileName),
      'cache-control': 'private, no-cache',
    },
  });
});
