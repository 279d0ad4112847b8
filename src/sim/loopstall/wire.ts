import type { Loopstall, Piece } from './shop';

interface WireUnit {
  readonly code: string;
  readonly props: string[];
  readonly cents: number;
  readonly units: number;
  readonly grams: number;
  readonly shot: string | null;
}

/** Units that are made when they are ordered. */
const ON_DEMAND = -1;

/** A piece as Loopstall's API tells it. */
export const shown = (piece: Piece, region: string, world: Loopstall) => ({
  piece: piece.id,
  seller_ref: piece.reference,
  name: piece.title,
  about: piece.text,
  shelf: piece.category,
  traits: piece.extra.traits,
  warehouse: piece.extra.warehouse,
  props: piece.options.map(({ name, values }) => ({ prop: name, values })),
  units: piece.variants.map(({ sku, picks, priceMinor, stock, grams, picture }): WireUnit => ({
    code: sku,
    props: picks,
    cents: priceMinor,
    units: stock ?? ON_DEMAND,
    grams: grams ?? 0,
    shot: picture,
  })),
  shots: piece.pictures.map(({ id, caption }) => ({
    id,
    note: caption,
    verdict: world.pictures.get(id)?.verdict ?? 'taken',
    reason: world.pictures.get(id)?.reason ?? null,
  })),
  ship: piece.extra.ship,
  made_in: piece.extra.madeIn,
  stage: piece.stage === 'live' ? 'on' : 'off',
  moved: piece.changedAt,
  page: `${world.url}/pieces/${piece.id}?in=${region}`,
});

/** A piece with what a request says of it. */
export function changed(piece: Piece, fields: Record<string, unknown>): Piece {
  const next = structuredClone(piece);
  const { extra } = next;
  if (typeof fields.name === 'string') next.title = fields.name;
  if (typeof fields.about === 'string') next.text = fields.about;
  if (typeof fields.shelf === 'string') next.category = fields.shelf;
  if (fields.traits && typeof fields.traits === 'object') extra.traits = fields.traits as Record<string, string>;
  if (typeof fields.warehouse === 'string') extra.warehouse = fields.warehouse;
  if (typeof fields.made_in === 'string') extra.madeIn = fields.made_in;
  if (Array.isArray(fields.ship)) extra.ship = fields.ship as Piece['extra']['ship'];
  if (Array.isArray(fields.props))
    next.options = (fields.props as { prop: string; values: string[] }[]).map(({ prop, values }) => ({
      name: prop,
      values,
    }));
  if (Array.isArray(fields.units))
    next.variants = (fields.units as WireUnit[]).map(({ code, props, cents, units, grams, shot }) => ({
      sku: String(code),
      picks: props,
      priceMinor: Number.isSafeInteger(cents) ? cents : 0,
      beforeMinor: null,
      stock: units === ON_DEMAND ? null : Math.max(0, Math.trunc(units)),
      picture: shot,
      gtin: null,
      grams,
    }));
  if (Array.isArray(fields.shots))
    next.pictures = (fields.shots as { id: string; note: string }[]).map(({ id, note }) => ({ id, caption: note }));
  return next;
}
