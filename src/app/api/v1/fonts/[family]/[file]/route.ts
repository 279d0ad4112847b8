import { route } from '@/server/http/route';
import { readFontFile } from '@/server/lettering/fonts';

/** One file of a font, WOFF: `/fonts/noto-sans/greek.bold`. */
export const GET = route<{ family: string; file: string }>('read', async ({ params }) => {
  const [subset = '', style = ''] = params.file.split('.');
  return new Response(new Uint8Array(await readFontFile(params.family, subset, style)), {
    headers: { 'content-type': 'font/woff', 'cache-control': 'private, max-age=31536000, immutable' },
  });
});
