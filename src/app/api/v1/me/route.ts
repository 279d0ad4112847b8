import { json, route } from '@/server/http/route';

export const GET = route(async ({ actor }) => json(actor));
