import { json, route } from '@/server/http/route';

export const GET = route('read', async ({ actor }) => json(actor));
