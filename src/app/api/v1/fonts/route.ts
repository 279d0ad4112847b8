import { FAMILIES } from '@/core/lettering/families';
import { json, route } from '@/server/http/route';
import { fontCatalog } from '@/server/lettering/fonts';

/** Families that text can be set in, and which characters the files of each hold. */
export const GET = route('read', async () => json({ families: FAMILIES, catalog: await fontCatalog() }));
