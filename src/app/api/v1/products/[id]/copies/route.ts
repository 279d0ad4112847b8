import { invalid } from '@/core/errors';
import { readBody } from '@/server/http/body';
import { CopyDto } from '@/server/http/dto/products';
import { json, route } from '@/server/http/route';
import { copyProduct, previewOnBlank } from '@/server/products/copies';

type Params = { id: string };

/** What the product would be on `?blankId=`: where its areas go, how many variants are there, and what does not fit. */
export const GET = route<Params>('read', async ({ ctx, actor, params, query }) => {
  const blankId = query.get('blankId');
  if (!blankId) throw invalid('blank-missing', 'Say on which blank: ?blankId= and its id.');
  const { areas, variantCount, notes, blank } = await previewOnBlank(ctx, actor, params.id, blankId);
  return json({ blank: { id: blank.id, name: blank.name, partner: blank.partner.name }, areas, variantCount, notes });
});

/** Makes a copy, on the same blank or on another. The answer says what did not fit. */
export const POST = route<Params>('design', async ({ ctx, actor, params, request }) => {
  const { product, notes } = await copyProduct(ctx, actor, params.id, await readBody(request, CopyDto));
  return json({ id: product.id, title: product.title, blankId: product.blankId, notes }, 201);
});
