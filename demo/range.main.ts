import path from 'node:path';
import { ApiClient } from './client';
import { fillTheRange } from './range';
import { stockTheShop } from './seller';
import { sendTheRange } from './sendings';
import { DEMO } from './sign-in.mjs';
import { connectTheRest, untilExempt } from './stores';

/** Makes the demo's first products, fills its range and its stores; run by bin/start when the app is up. */
const artwork = path.join(process.cwd(), 'demo', 'artwork');
const say = (text: string) => process.stdout.write(`${text}\n`);
const api = await ApiClient.signIn(process.env.TYPICA_ORIGIN!, DEMO.email, DEMO.password);
await stockTheShop(api, artwork);
say('the first products are made');
const { stores } = await api.get<{ stores: { id: string; channel: string }[] }>('/stores');
const [pennyquay] = stores;
if (stores.length < 2 && pennyquay) {
  const rest = await connectTheRest(api);
  say('five stores are connected');
  say(`${await fillTheRange(api, artwork)} further products are made`);
  await untilExempt(api, rest);
  await sendTheRange(api, { pennyquay: pennyquay.id, ...rest });
  say('the range is in the stores');
}
