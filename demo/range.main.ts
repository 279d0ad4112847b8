import path from 'node:path';
import { ApiClient } from './client';
import { fillTheRange } from './range';

/** Fills the demo's range; run by bin/start after the demo's first products. TYPICA_DEMO is JSON with the sign-in. */
const { origin, email, password } = JSON.parse(process.env.TYPICA_DEMO ?? '{}') as {
  origin: string;
  email: string;
  password: string;
};
const api = await ApiClient.signIn(origin, email, password);
await fillTheRange(api, path.join(process.cwd(), 'demo', 'artwork'));
