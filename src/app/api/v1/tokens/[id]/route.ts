import { notFound } from '@/core/errors';
import { noContent, route } from '@/server/http/route';
import { revokeAccessToken } from '@/server/people/tokens';

export const DELETE = route<{ id: string }>('keys', async ({ ctx, actor, params }) => {
  if (!(await revokeAccessToken(ctx, actor, params.id))) throw notFound('token', params.id);
  return noContent();
});
