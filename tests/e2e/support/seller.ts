import { ApiClient } from '../../../demo/client';

export interface Seller {
  readonly name: string;
  readonly email: string;
  readonly password: string;
}

/** Opens an account with a workspace of its own, in pounds and sending from Britain, and signs its client in. */
export async function openAccount(origin: string, seller: Seller): Promise<ApiClient> {
  await new ApiClient(origin).post('/people', {
    ...seller,
    workspaceName: `${seller.name}'s prints`,
    currency: 'GBP',
    country: 'GB',
  });
  return ApiClient.signIn(origin, seller.email, seller.password);
}
