import path from 'node:path';
import type { Context } from '../src/server/context';
import { createAccount } from '../src/server/people/people';
import { bringRates } from '../src/server/rates/feed';
import { loadCatalog } from './catalog';
import { DEMO } from './sign-in.mjs';

/** What there must be before one can sign in to the demo: its catalog, rates, and account. Needs the database and the rates, not the app. */
export async function layGround(ctx: Context): Promise<void> {
  await loadCatalog(ctx, path.join(process.cwd(), 'demo'));
  // Before the shop is stocked, so that no price moves right after its sending.
  await bringRates(ctx);
  const have = await ctx.db.row('SELECT id FROM person WHERE email = ?', [DEMO.email]);
  if (!have)
    await createAccount(ctx, {
      ...DEMO,
      name: 'Ida Brack',
      workspaceName: 'Brackwater Boathouse',
      currency: 'GBP',
      country: 'GB',
    });
}
