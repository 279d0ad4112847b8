import { TypicaError } from '@/core/errors';
import { publicRoute } from '@/server/http/route';

/** What has no route of its own is refused as everything else of the API is, not with a page. */
const nothing = publicRoute(() =>
  Promise.reject(
    new TypicaError(
      'not-found',
      'not-found',
      'There is nothing at this address of the API; docs/api.md lists what there is.',
    ),
  ),
);

export { nothing as GET, nothing as POST, nothing as PUT, nothing as PATCH, nothing as DELETE };
