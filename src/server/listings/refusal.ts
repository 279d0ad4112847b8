import { TypicaError } from '@/core/errors';

/** What a shop said no to, in its words. */
export const refusedByShop = (storeName: string, words: string, shopFields: readonly string[]): TypicaError =>
  new TypicaError('invalid', 'shop-refused', `${storeName} refused this: “${words}” Change that here and send again.`, {
    words,
    shopFields,
  });
