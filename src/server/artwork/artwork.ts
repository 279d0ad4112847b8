import { notFound, TypicaError } from '@/core/errors';
import type { ArtworkSize } from '@/core/findings/finding';
import type { Twin } from '@/core/findings/finding';
import { takeUpload } from '../blobs/upload';
import type { Context } from '../context';
import { newId } from '../db/ids';
import type { Database } from '../db/pool';
import { emit } from '../events/events';
import type { ArtworkFacts } from '../images/artwork-facts';
import { MAX_UPLOAD_BYTES } from '../images/limits';
import { enqueue } from '../jobs/jobs';
import type { Actor } from '../people/people';
import { refuseOver } from '../quotas/quotas';

export interface Artwork {
  readonly id: string;
  readonly name: string;
  readonly state: 'ingesting' | 'ready' | 'refused';
  readonly facts: ArtworkFacts | null;
  readonly refusal: { code: string; message: string } | null;
  readonly createdAt: Date;
  /** The artwork that it was made out of, and how. */
  readonly derivedFrom: string | null;
  /** The artwork in whose place it was put everywhere. */
  readonly replaced: { readonly name: string; readonly widthPx: number; readonly heightPx: number } | null;
  readonly tags: readonly string[];
  /** A photograph is taken in as artwork is, and is for pictures. */
  readonly purpose: 'artwork' | 'photograph';
  /** Other artworks that show the same picture. */
  readonly twins: readonly Twin[];
}

export interface ArtworkRow extends Artwork {
  readonly workspaceId: string;
  readonly derivation: string | null;
  readonly originalSha256: string;
  readonly sourceSha256: string | null;
  readonly previewSha256: string | null;
  readonly thumbnailSha256: string | null;
}

const COLUMNS = `id, workspace_id AS workspaceId, name, state, facts, refusal, created_at AS createdAt, original_sha256 AS originalSha256,
  source_sha256 AS sourceSha256, preview_sha256 AS previewSha256, thumbnail_sha256 AS thumbnailSha256,
  derived_from AS derivedFrom, derivation, replaced, tags, purpose,
  (SELECT JSON_ARRAYAGG(JSON_OBJECT('artworkId', o.id, 'name', o.name, 'facts', JSON_EXTRACT(o.facts, '$.vector', '$.widthPx', '$.heightPx')))
   FROM artwork_twin t JOIN artwork o ON o.id = t.other_id WHERE t.artwork_id = artwork.id AND o.deleted_at IS NULL) AS twins`;

/** A row as it is read: columns that hold JSON as text come as text. */
type StoredArtwork = Omit<ArtworkRow, 'replaced' | 'tags' | 'twins'> & {
  replaced: string | null;
  tags: string;
  twins: readonly StoredTwin[] | null;
};

const fromStored = (row: StoredArtwork): ArtworkRow => ({
  ...row,
  replaced: row.replaced === null ? null : (JSON.parse(row.replaced) as ArtworkRow['replaced']),
  tags: JSON.parse(row.tags) as string[],
  twins: (row.twins ?? []).map(readTwin),
});

/** Twins as the database puts them together: the facts of each are its kind, width and height. */
interface StoredTwin {
  readonly artworkId: string;
  readonly name: string;
  readonly facts: readonly [vector: boolean, widthPx: number, heightPx: number];
}

const readTwin = ({ artworkId, name, facts: [vector, widthPx, heightPx] }: StoredTwin): Twin => ({
  artworkId,
  name,
  vector,
  widthPx,
  heightPx,
});

/** Name of an upload for people: the file's, without folders and control characters, at most 200 characters. */
/** A name as it can be kept: composed, without control characters, at most 200 letters and never half of one. */
export const cleanName = (name: string): string =>
  name
    .normalize('NFC')
    .toWellFormed()
    .replace(/[\p{Cc}\p{Cf}]/gu, '')
    .trim()
    .slice(0, 200)
    .toWellFormed()
    .trim();

export function artworkName(fileName: string | null): string {
  const base = (fileName ?? '')
    .slice(-1000)
    .split(/[\\/]/)
    .at(-1)!
    .replace(/\.(png|jpe?g|webp|svg)$/i, '');
  return cleanName(base) || 'Untitled';
}

const tooLarge = () =>
  new TypicaError(
    'too-large',
    'artwork-too-large',
    `The file is larger than ${MAX_UPLOAD_BYTES / 1024 / 1024} MB. Export it with more compression or fewer pixels.`,
  );

/** Takes in an uploaded file. Gives the artwork, still to be looked at. */
export async function uploadArtwork(
  ctx: Context,
  actor: Actor,
  body: ReadableStream<Uint8Array> | null,
  fileName: string | null,
  declared: number | null = null,
  purpose: Artwork['purpose'] = 'artwork',
): Promise<Artwork> {
  await refuseOver(ctx, actor.workspaceId, 'files');
  await refuseOver(ctx, actor.workspaceId, 'jobs');
  // What it says of its length is believed for a first no; what came is counted.
  await refuseOver(ctx, actor.workspaceId, 'bytes', declared ?? 0);
  const { sha256, sizeBytes } = await takeUpload(ctx, body, declared, {
    maxBytes: MAX_UPLOAD_BYTES,
    mediaType: 'application/octet-stream',
    empty: () => new TypicaError('invalid', 'artwork-empty', 'The file is empty; send the file itself as the body.'),
    tooLarge,
  });
  if (declared === null) await refuseOver(ctx, actor.workspaceId, 'bytes', sizeBytes);
  const id = newId('a');
  const name = artworkName(fileName);
  await ctx.pools.transaction(async (db) => {
    await db.run(
      "INSERT INTO artwork (id, workspace_id, name, state, original_sha256, purpose, size_bytes) VALUES (?, ?, ?, 'ingesting', ?, ?, ?)",
      [id, actor.workspaceId, name, sha256, purpose, sizeBytes],
    );
    await enqueue(db, {
      workspaceId: actor.workspaceId,
      kind: 'ingest-artwork',
      subject: `artwork:${id}`,
      title: `Process ${name}`,
      payload: { artworkId: id },
      priority: 20,
      idempotencyKey: `ingest:${id}`,
      maxAttempts: 3,
    });
  });
  return publicArtwork(await findArtwork(ctx, actor.workspaceId, id));
}

/** Artworks by a condition of our own, never of a stranger: its values go in `values`. */
export async function readArtworks(
  db: Database,
  tail: string,
  values: readonly (string | number)[],
): Promise<ArtworkRow[]> {
  const rows = await db.rows<StoredArtwork>(`SELECT ${COLUMNS} FROM artwork ${tail}`, [...values]);
  return rows.map(fromStored);
}

export async function findArtwork(ctx: Context, workspaceId: string, id: string): Promise<ArtworkRow> {
  const [row] = await readArtworks(ctx.db, 'WHERE id = ? AND workspace_id = ? AND deleted_at IS NULL', [
    id,
    workspaceId,
  ]);
  if (!row) throw notFound('artwork', id);
  return row;
}

export async function findArtworks(
  db: Database,
  workspaceId: string,
  ids: readonly string[],
): Promise<Map<string, ArtworkRow>> {
  if (ids.length === 0) return new Map();
  const rows = await readArtworks(
    db,
    `WHERE workspace_id = ? AND deleted_at IS NULL AND id IN (${ids.map(() => '?').join(',')})`,
    [workspaceId, ...ids],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

export const listArtworks = (ctx: Context, workspaceId: string, limit = 200): Promise<ArtworkRow[]> =>
  readArtworks(
    ctx.db,
    "WHERE workspace_id = ? AND purpose = 'artwork' AND state <> 'refused' AND deleted_at IS NULL ORDER BY created_at DESC, id LIMIT ?",
    [workspaceId, limit],
  );

/** What the checks need of an artwork; nothing while it is not ready. */
export const checkedArtwork = ({ facts, name, replaced, twins }: Artwork): ArtworkSize | undefined =>
  facts ? { ...facts, name, replaced, twins } : undefined;

/** What the API tells of an artwork: not where its bytes lie. */
export const publicArtwork = ({
  id,
  name,
  state,
  facts,
  refusal,
  createdAt,
  derivedFrom,
  replaced,
  tags,
  purpose,
  twins,
}: Artwork): Artwork => ({
  id,
  name,
  state,
  facts,
  refusal,
  createdAt,
  derivedFrom,
  replaced,
  tags,
  purpose,
  twins,
});

/** A likeness hash as the number that the database compares. */
const likenessNumber = ({ likeness }: ArtworkFacts): bigint | null =>
  likeness === undefined ? null : BigInt(`0x${likeness}`);

/** Notes what ingest found, and tells the browsers. */
export async function recordIngested(
  ctx: Context,
  artwork: ArtworkRow,
  found:
    | { facts: ArtworkFacts; original: string; source: string; preview: string; thumbnail: string }
    | { refusal: { code: string; message: string } },
): Promise<void> {
  await ctx.pools.transaction(async (db) => {
    if ('refusal' in found)
      await db.run("UPDATE artwork SET state = 'refused', refusal = ? WHERE id = ?", [
        JSON.stringify(found.refusal),
        artwork.id,
      ]);
    else {
      await db.run(
        "UPDATE artwork SET state = 'ready', facts = ?, likeness = ?, original_sha256 = ?, source_sha256 = ?, preview_sha256 = ?, thumbnail_sha256 = ?, size_bytes = (SELECT size_bytes FROM blob_object WHERE sha256 = ?) WHERE id = ?",
        [
          JSON.stringify(found.facts),
          likenessNumber(found.facts),
          found.original,
          found.source,
          found.preview,
          found.thumbnail,
          // What was made out of another artwork counts like what was uploaded.
          found.original,
          artwork.id,
        ],
      );
    }
    await emit(db, artwork.workspaceId, 'artwork', {
      artworkId: artwork.id,
      state: 'refusal' in found ? 'refused' : 'ready',
    });
  });
}

/** Notes what is known of an artwork anew; its files stay as they are. */
export async function recordFacts(ctx: Context, artwork: ArtworkRow, facts: ArtworkFacts): Promise<void> {
  await ctx.pools.transaction(async (db) => {
    await db.run("UPDATE artwork SET facts = ?, likeness = ? WHERE id = ? AND state = 'ready'", [
      JSON.stringify(facts),
      likenessNumber(facts),
      artwork.id,
    ]);
    await emit(db, artwork.workspaceId, 'artwork', { artworkId: artwork.id, state: 'ready' });
  });
}

/** Forgets refused uploads after a day, so that their bytes can be cleaned up. */
export async function dropRefused(ctx: Context): Promise<void> {
  await ctx.db.run(
    "DELETE FROM artwork WHERE state = 'refused' AND created_at < UTC_TIMESTAMP(3) - INTERVAL 1 DAY LIMIT 500",
  );
}
