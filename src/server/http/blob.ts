import { attachment } from './attachment';
import { blobInfo } from '../blobs/blobs';
import type { Context } from '../context';

/** A blob as an answer. Its hash is its ETag; `immutable` for addresses that will never show other bytes. */
export async function blobResponse(
  ctx: Context,
  request: Request,
  sha256: string,
  options: { mediaType?: string; fileName?: string; immutable?: boolean } = {},
): Promise<Response> {
  const etag = `"${sha256}"`;
  const headers: Record<string, string> = {
    etag,
    'cache-control': options.immutable ? 'private, max-age=31536000, immutable' : 'private, no-cache',
    // Strangers' bytes are shown as what we say they are, and run nothing.
    'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; sandbox",
  };
  if (request.headers.get('if-none-match') === etag) return new Response(null, { status: 304, headers });
  const info = await blobInfo(ctx, sha256);
  headers['content-type'] = options.mediaType ?? info?.mediaType ?? 'application/octet-stream';
  if (info) headers['content-length'] = String(info.sizeBytes);
  if (options.fileName) headers['content-disposition'] = attachment(options.fileName);
  return new Response(await ctx.files.stream(sha256), { headers });
}
