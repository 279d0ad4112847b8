import path from 'node:path';
import { makeContext } from '../src/server/context';
import { loadCatalog } from './catalog';

/** `npm run catalog`: loads the demo's catalog alone, for a start that was made with --empty. */
const ctx = makeContext();
await loadCatalog(ctx, path.join(process.cwd(), 'demo'));
await ctx.pools.close();
