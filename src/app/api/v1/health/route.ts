import { json, publicRoute } from '@/server/http/route';

export const dynamic = 'force-dynamic';

export const GET = publicRoute(async ({ ctx }) => {
  await ctx.db.row('SELECT 1');
  return json({ ok: true });
});
