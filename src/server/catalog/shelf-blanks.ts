import { parseVariantKey, SIZE_OPTION } from '@/core/catalog/blank';
import { familyOf } from '@/core/catalog/families';
import { rankBlanks, type ShelfBlank } from '@/core/shelf/shelf';
import { printSizePx } from '@/core/geometry/area';
import { groupBy } from '@/core/group';
import { ownEntry } from '@/core/own-entry';
import type { Context } from '../context';
import { shelfRows, type AreaRow, type ValueRow, type VariantRow } from './shelf-rows';

const grouped = <T extends { blankId: string }>(rows: readonly T[]) => groupBy(rows, (row) => row.blankId);

/** All blanks cut down to what browsing asks of them. */
export async function loadShelfBlanks(ctx: Context): Promise<ShelfBlank[]> {
  const { blanks, areas, values, pieces, shots, variants } = await shelfRows(ctx);
  const [areasOf, valuesOf, piecesOf] = [grouped(areas), grouped(values), grouped(pieces)];
  // The first shot of each comes last.
  const shotOf = new Map(shots.map(({ blankId, hash }) => [blankId, hash]));
  const variantsOf = groupBy(variants, ([blankId]) => blankId);
  const families = new Families();
  const ranks = rankBlanks(blanks);
  return blanks.map((b): ShelfBlank => {
    const own = valuesOf.get(b.id) ?? [];
    const colors = own.filter((value) => value.optionCode === colorCodeOf(own));
    const sizes = own.filter((value) => value.optionCode === SIZE_OPTION);
    return {
      id: b.id,
      rank: ranks.get(b.id)!,
      code: b.code,
      name: b.name,
      kind: b.kind,
      material: b.material,
      description: b.description,
      factsText: Object.values(b.facts).join(' '),
      partner: { id: b.partnerId, name: b.partnerName },
      shipsFrom: b.shipsFrom,
      parcelClass: b.parcelClass,
      makingDays: { min: b.makingDaysMin, max: b.makingDaysMax },
      techniques: [...new Set((areasOf.get(b.id) ?? []).map((area) => area.technique))],
      areas: (areasOf.get(b.id) ?? []).map(shelfArea),
      colorOf: colors[0] ? { optionCode: colors[0].optionCode, pieceCode: colors[0].optionPiece } : null,
      colors: colors.map(({ code, name, hex }) => ({ code, name, hex: hex!, family: families.of(hex!) })),
      sizes: sizes.map((value) => value.name),
      choices: otherChoices(own),
      pieces: (piecesOf.get(b.id) ?? []).map(({ code, name }) => ({ code, name })),
      shotHash: shotOf.get(b.id) ?? null,
      variants: variantColumns(variantsOf.get(b.id) ?? [], colors, sizes),
    };
  });
}

/** The first option with colors. */
const colorCodeOf = (own: readonly ValueRow[]): string | null =>
  own.find((value) => value.hex !== null)?.optionCode ?? null;

/** Few colors are on many blanks: each family is found once. */
class Families {
  private readonly found = new Map<string, ReturnType<typeof familyOf>>();
  of(hex: string): ReturnType<typeof familyOf> {
    let family = this.found.get(hex);
    if (!family) this.found.set(hex, (family = familyOf(hex)));
    return family;
  }
}

const shelfArea = ({ key, name, pieceCode, document: g }: AreaRow): ShelfBlank['areas'][number] => ({
  key,
  name,
  pieceCode,
  widthMm: g.widthMm,
  heightMm: g.heightMm,
  outline: g.outline,
  dpi: g.dpi,
  ...printSizePx(g),
});

/** Options beside the first color and the size, with the names of their values. */
function otherChoices(own: readonly ValueRow[]): ShelfBlank['choices'] {
  const colorCode = colorCodeOf(own);
  const choices = groupBy(
    own.filter((value) => value.optionCode !== colorCode && value.optionCode !== SIZE_OPTION),
    (value) => value.option,
  );
  return [...choices].map(([name, values]) => ({ name, values: values.map((value) => value.name) }));
}

function variantColumns(
  rows: readonly VariantRow[],
  colors: readonly ValueRow[],
  sizes: readonly ValueRow[],
): ShelfBlank['variants'] {
  const indexIn = (list: readonly ValueRow[]) => new Map(list.map((value, i) => [value.code, i]));
  const [colorAt, sizeAt] = [indexIn(colors), indexIn(sizes)];
  const colorCode = colors[0]?.optionCode ?? '';
  const chosen = rows.map(([, key]) => parseVariantKey(key));
  return {
    keys: rows.map(([, key]) => key),
    color: Int16Array.from(chosen, (values) => colorAt.get(ownEntry(values, colorCode) ?? '') ?? -1),
    size: Int16Array.from(chosen, (values) => sizeAt.get(ownEntry(values, SIZE_OPTION) ?? '') ?? -1),
    stock: Int32Array.from(rows, ([, , stock]) => stock),
    ended: Uint8Array.from(rows, ([, , , ended]) => ended),
  };
}
