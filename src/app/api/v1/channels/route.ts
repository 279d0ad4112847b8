import { json, route } from '@/server/http/route';

export const GET = route('read', async ({ ctx }) =>
  json({ channels: [...ctx.channels.values()].map(({ about }) => about) }),
);
