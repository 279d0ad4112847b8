import path from 'node:path';
import { makeContext } from '../src/server/context';
import { ApiClient } from './client';
import { layGround } from './ground';
import { stockTheShop } from './seller';
import { DEMO } from './sign-in.mjs';

/** Loads the demo's world with its first products, once; run by tests when everything is up. */
const ctx = makeContext();
await layGround(ctx);
await ctx.pools.close();
const api = await ApiClient.signIn(ctx.config.origin, DEMO.email, DEMO.password);
await stockTheShop(api, path.join(process.cwd(), 'demo', 'artwork'));
