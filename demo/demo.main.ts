import path from 'node:path';
import { makeContext } from '../src/server/context';
import { createAccount } from '../src/server/people/people';
import { bringRates } from '../src/server/rates/feed';
import { ApiClient } from './client';
import { loadCatalog } from './catalog';
import { stockTheShop } from './seller';

/** Loads the demo's world, once; run by bin/start when everything is up. Its last line is JSON with the sign-in. */
const EMAIL = 'demo@brackwater.example';
const PASSWORD = 'ebb-and-flood';

const ctx = makeContext();
const folder = path.join(process.cwd(), 'demo');
await loadCatalog(ctx, folder);
// Before the shop is stocked, so that no price moves right after its sending.
await bringRates(ctx);
const have = await ctx.db.row('SELECT id FROM person WHERE email = ?', [EMAIL]);
if (!have)
  await createAccount(ctx, {
    email: EMAIL,
    name: 'Ida Brack',
    password: PASSWORD,
    workspaceName: 'Brackwater Boathouse',
    currency: 'GBP',
    country: 'GB',
  });
const api = await ApiClient.signIn(ctx.config.origin, EMAIL, PASSWORD);
await stockTheShop(api, path.join(folder, 'artwork'));
await ctx.pools.close();
process.stdout.write(`${JSON.stringify({ email: EMAIL, password: PASSWORD })}\n`);
