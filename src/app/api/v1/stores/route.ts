import { invalid } from '@/core/errors';
import { readBody } from '@/server/http/body';
import { NewStoreDto } from '@/server/http/dto/stores';
import { json, route } from '@/server/http/route';
import { connectWithKeys } from '@/server/stores/connect';
import { listStores } from '@/server/stores/stores';

export const GET = route('read', async ({ ctx, actor }) => json({ stores: await listStores(ctx, actor.workspaceId) }));

/** Connects a store with keys that the seller pasted; a store that was connected before is the same one again. */
export const POST = route('keys', async ({ ctx, actor, request }) => {
  const { channel, region = null, keys } = await readBody(request, NewStoreDto);
  const texts = Object.entries(keys);
  if (texts.length > 10 || !texts.every(([, text]) => typeof text === 'string' && text.length <= 2000))
    throw invalid('keys-invalid', 'keys has up to 10 texts of up to 2000 characters.');
  return json(
    await connectWithKeys(ctx, actor, channel, Object.fromEntries(texts) as Record<string, string>, region),
    201,
  );
});
