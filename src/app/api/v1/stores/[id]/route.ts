import { readBody } from '@/server/http/body';
import { StoreSettingsDto } from '@/server/http/dto/stores';
import { json, noContent, route } from '@/server/http/route';
import { changeSettings, disconnectStore, findStore } from '@/server/stores/stores';

type Params = { id: string };

export const GET = route<Params>('read', async ({ ctx, actor, params }) =>
  json(await findStore(ctx, actor.workspaceId, params.id)),
);

export const PATCH = route<Params>('price', async ({ ctx, actor, request, params }) => {
  const { expectedSales, aimsAt } = await readBody(request, StoreSettingsDto);
  const store = await findStore(ctx, actor.workspaceId, params.id);
  return json(
    await changeSettings(ctx, store, {
      ...(expectedSales === undefined ? {} : { expectedSales }),
      ...(aimsAt === undefined ? {} : { aimsAt }),
    }),
  );
});

export const DELETE = route<Params>('keys', async ({ ctx, actor, params }) => {
  await disconnectStore(ctx, await findStore(ctx, actor.workspaceId, params.id));
  return noContent();
});
