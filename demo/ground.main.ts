import { makeContext } from '../src/server/context';
import { layGround } from './ground';

/** Lays the demo's ground; run by bin/start while the app is built. */
const ctx = makeContext();
await layGround(ctx);
await ctx.pools.close();
