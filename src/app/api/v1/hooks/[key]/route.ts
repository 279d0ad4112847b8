import { readText } from '@/server/http/body';
import { noContent, publicRoute } from '@/server/http/route';
import { MAX_MESSAGE_BYTES, takeMessage } from '@/server/stores/hooks';

/** Where shops tell what changed there (Standard Webhooks): known by its address, and believed by its signature alone. */
export const POST = publicRoute<{ key: string }>(async ({ ctx, request, params }) => {
  const told = (name: string) => request.headers.get(name) ?? '';
  const body = await readText(request, MAX_MESSAGE_BYTES);
  await takeMessage(ctx, params.key, {
    id: told('webhook-id'),
    seconds: told('webhook-timestamp'),
    signatures: told('webhook-signature'),
    body,
  });
  return noContent();
});
