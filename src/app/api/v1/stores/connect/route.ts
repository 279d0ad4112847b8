import { readBody } from '@/server/http/body';
import { ConnectDto } from '@/server/http/dto/stores';
import { json, route } from '@/server/http/route';
import { beginConnect } from '@/server/stores/connect';

/** Begins a connection: the answer has the address of the shop's consent page, which sends the person back to us. */
export const POST = route('keys', async ({ ctx, actor, request }) => {
  const { channel, region = null } = await readBody(request, ConnectDto);
  return json(await beginConnect(ctx, actor, channel, region), 201);
});
