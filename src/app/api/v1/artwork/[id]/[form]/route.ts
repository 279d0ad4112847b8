import { notFound } from '@/core/errors';
import { findArtwork } from '@/server/artwork/artwork';
import { blobResponse } from '@/server/http/blob';
import { route } from '@/server/http/route';
import { ownEntry } from '@/core/own-entry';

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
    ? blobResponse(ctx, request, sha256, { fileName: artwork.name })
    : blobResponse(ctx, request, sha256, { mediaType: 'image/webp', immutable: true });
});
