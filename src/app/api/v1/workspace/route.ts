import { readBody } from '@/server/http/body';
import { WorkspaceDto } from '@/server/http/dto/people';
import { json, noContent, route } from '@/server/http/route';
import { changeWorkspace } from '@/server/people/settings';

export const GET = route('read', async ({ actor }) =>
  json({ name: actor.workspaceName, country: actor.country, currency: actor.currency }),
);

/** Changes the workspace's name, country, and before the first product its currency. */
export const PATCH = route('money', async ({ ctx, actor, request }) => {
  await changeWorkspace(ctx, actor, await readBody(request, WorkspaceDto));
  return noContent();
});
