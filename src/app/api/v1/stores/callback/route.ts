import { isTypicaError, TypicaError } from '@/core/errors';
import { problemResponse } from '@/server/http/problem';
import { json, route } from '@/server/http/route';
import { finishConnect } from '@/server/stores/connect';

/** Where a shop's consent page sends the person back to. A browser goes on to the Stores page; a script is given the store. */
export const GET = route('keys', async ({ ctx, actor, request, query }) => {
  const wantsPage = (request.headers.get('accept') ?? '').includes('text/html');
  const goTo = (address: string) =>
    new Response(null, { status: 303, headers: { location: `${ctx.config.origin}${address}` } });
  if (query.get('error')) {
    const says = 'You did not allow the connection. Nothing was changed.';
    return wantsPage
      ? goTo('/stores?problem=not-allowed')
      : problemResponse(new TypicaError('forbidden', 'not-allowed', says));
  }
  try {
    const store = await finishConnect(ctx, actor, { state: query.get('state') ?? '', code: query.get('code') ?? '' });
    return wantsPage ? goTo(`/stores/${store.id}`) : json(store, 201);
  } catch (error) {
    if (wantsPage && isTypicaError(error) && error.visible) return goTo(`/stores?problem=${error.code}`);
    throw error;
  }
});
