import { ping } from '@/server/db/ping';
import { json, publicRoute } from '@/server/http/route';

export const dynamic = 'force-dynamic';

export const GET = publicRoute(async ({ ctx }) => {
  await ping(ctx.db);
  return json({ ok: true });
});
