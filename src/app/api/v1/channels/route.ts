import { json, route } from '@/server/http/route';

export const GET = route(async ({ ctx }) => json({ channels: [...ctx.channels.values()].map(({ about }) => about) }));
