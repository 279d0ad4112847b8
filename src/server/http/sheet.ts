import { csvBytes } from '../csv/body';
import type { Scope } from '../people/scopes';
import { MAX_MEGABYTES } from '../pricing/sheet';
import { findProduct } from '../products/products';
import { reckon } from '../reckoning/reckoners';
import { json, route } from './route';

/**
 * A route that reads a file of a product's prices or codes: says what it would change and what is wrong, line by line. With `?apply=true` it
 * is changed, all or nothing.
 */
export const sheetRoute = (scope: Scope, what: 'prices' | 'codes') =>
  route<{ id: string }>(scope, async ({ ctx, actor, params, request, query }) => {
    const { workspaceId } = actor;
    await findProduct(ctx, workspaceId, params.id);
    const input = { workspaceId, productId: params.id, csv: await csvBytes(request.body, MAX_MEGABYTES) };
    return json(
      query.get('apply') === 'true'
        ? await reckon(ctx, `apply-${what}`, { ...input, actor }, workspaceId)
        : await reckon(ctx, `preview-${what}`, input, workspaceId),
    );
  });
