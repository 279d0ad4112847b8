import { notFound } from '@/core/errors';
import { findArtwork, type Artwork } from '@/server/artwork/artwork';
import { blobResponse } from '@/server/http/blob';
import { route } from '@/server/http/route';
import { ownEntry } from '@/core/own-entry';

const ENDINGS: Record<string, string> = {
  'image/png': '.png',
  'image/jpeg': '.jpg',
  'image/webp': '.webp',
  'image/svg+xml': '.svg',
};

/** The name under which a file is kept: artworks have no ending of their own. */
function withEnding({ name, facts }: Artwork): string {
  const ending = ownEntry(ENDINGS, facts?.mediaType ?? '') ?? '';
  return name.toLowerCase().endsWith(ending) ? name : `${name}${ending}`;
}

/** `thumbnail`, `preview`, or `original` as it was uploaded (as a download). */
export const GET = route<{ id: string; form: string }>('read', async ({ ctx, actor, request, params }) => {
  const artwork = await findArtwork(ctx, actor.workspaceId, params.id);
  const forms: Record<string, string | null> = {
    thumbnail: artwork.thumbnailSha256,
    preview: artwork.previewSha256,
    original: artwork.originalSha256,
  };
  const sha256 = ownEntry(forms, params.form);
  if (!sha256) throw notFound(`${params.form} of artwork`, params.id);
  return params.form === 'original'
    ? blobResponse(ctx, request, sha256, { fileName: withEnding(artwork) })
    : blobResponse(ctx, request, sha256, { mediaType: 'image/webp', immutable: true });
});
