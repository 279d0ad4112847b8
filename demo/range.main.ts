import path from 'node:path';
import { ApiClient } from './client';
import { fillTheRange } from './range';
import { sendTheRange } from './sendings';
import { connectTheRest, untilExempt } from './stores';

/** Fills the demo's range and its stores; run by bin/start after the demo's first products. TYPICA_DEMO is JSON with the sign-in. */
const { origin, email, password } = JSON.parse(process.env.TYPICA_DEMO ?? '{}') as {
  origin: string;
  email: string;
  password: string;
};
const say = (text: string) => process.stdout.write(`${text}\n`);
const api = await ApiClient.signIn(origin, email, password);
const { stores } = await api.get<{ stores: { id: string; channel: string }[] }>('/stores');
const [pennyquay] = stores;
if (stores.length < 2 && pennyquay) {
  const rest = await connectTheRest(api);
  say('five stores are connected');
  say(`${await fillTheRange(api, path.join(process.cwd(), 'demo', 'artwork'))} further products are made`);
  await untilExempt(api, rest);
  await sendTheRange(api, { pennyquay: pennyquay.id, ...rest });
  say('the range is in the stores');
}
