import type { ApiClient } from './client';

/** What the seller answers Loopstall for each good: the place there, and what it asks. */
const LOOPSTALL_PLACES = {
  'towpath-tee': ['wear-tops-tee', { cloth: 'Cotton', age: 'Adults', fit: 'Straight', wash: '30 degrees' }],
  'launch-tee': ['wear-tops-tee', { cloth: 'Cotton', age: 'Children', fit: 'Straight', wash: '40 degrees' }],
  'slipway-hoodie': ['wear-tops-hood', { cloth: 'Cotton blend', age: 'Adults', fit: 'Loose', wash: '30 degrees' }],
  'coxswain-cap': ['wear-head-cap', { cloth: 'Cotton', closure: 'Strap' }],
  'landing-tote': ['carry-bag', { cloth: 'Cotton', handles: 'Long' }],
  'galley-mug': ['table-mug', { stuff: 'Ceramic', dishwasher: 'Yes' }],
  'bailer-cup': ['table-cup', { stuff: 'Enamel', dishwasher: 'No' }],
  'river-poster': ['home-wall-print', { paper: 'Matte' }],
  'framed-print': ['home-wall-framed', { paper: 'Matte', frame: 'Wood' }],
  // Not answered yet: how many pages it has.
  'rigger-logbook': ['desk-book', { paper: 'Matte' }],
  'galley-towel': ['table-towel', { cloth: 'Linen', wash: '40 degrees' }],
} as const;

export interface DemoStores {
  readonly broadmere: string;
  readonly plainfrontUk: string;
  readonly plainfrontEurope: string;
  readonly loopstall: string;
}

interface Connectable {
  readonly code: string;
  readonly connecting: { readonly kind: string; readonly page?: string };
}

/** The address of a channel's page with keys, as the seller finds it on the Stores page. */
async function keysPage(api: ApiClient, code: string): Promise<string> {
  const { channels } = await api.get<{ channels: Connectable[] }>('/channels');
  return channels.find((channel) => channel.code === code)!.connecting.page!;
}

const idIn = (html: string, id: string): string =>
  (new RegExp(`id="${id}">([^<]+)<`).exec(html)?.[1] ?? '').replace(/&#(\d+);/g, (_, n) =>
    String.fromCharCode(Number(n)),
  );

/** Connects what the seller has beside Pennyquay, as they would: four stores on three channels. */
export async function connectTheRest(api: ApiClient): Promise<DemoStores> {
  const broadmere = await connectBroadmere(api);
  const plainfrontUk = await connectPlainfront(api, 'pf-gb', 'Brackwater UK');
  const plainfrontEurope = await connectPlainfront(api, 'pf-eu', 'Brackwater Europe');
  const loopstall = await connectLoopstall(api);
  return { broadmere, plainfrontUk, plainfrontEurope, loopstall };
}

/** Waits until Broadmere has granted the exemption: it decides after a minute and a half. */
export const untilExempt = (api: ApiClient, { broadmere }: Pick<DemoStores, 'broadmere'>): Promise<true> =>
  api.until(
    async () => {
      const { shopFacts } = await api.post<{ shopFacts: { exemptions?: { state: string }[] } }>(
        `/stores/${broadmere}/shop`,
      );
      return shopFacts.exemptions?.some(({ state }) => state === 'granted') ? true : null;
    },
    'the exemption',
    600,
  );

async function connectBroadmere(api: ApiClient): Promise<string> {
  const page = await (await fetch(await keysPage(api, 'broadmere'))).text();
  const keys = { number: idIn(page, 'number'), secret: idIn(page, 'secret') };
  const { id } = await api.post<{ id: string }>('/stores', { channel: 'broadmere', region: 'us', keys });
  await api.call('PATCH', `/stores/${id}`, { name: 'Brackwater on Broadmere', answers: { brand: 'Brackwater' } });
  await api.post(`/stores/${id}/exemption`);
  return id;
}

async function connectPlainfront(api: ApiClient, storefront: string, name: string): Promise<string> {
  const page = await keysPage(api, 'plainfront');
  const form = new URLSearchParams({ name: 'Typica', days: '90', storefront });
  for (const scope of ['products', 'pictures', 'delivery', 'hooks', 'discounts']) form.append('scope', scope);
  const key = idIn(await (await fetch(page, { method: 'POST', body: form })).text(), 'key');
  const { id } = await api.post<{ id: string }>('/stores', { channel: 'plainfront', keys: { key } });
  await api.call('PATCH', `/stores/${id}`, {
    name,
    language: 'en-GB',
    sizesIn: 'cm',
    answers: { collectionsByTag: { river: 'The river', rowing: 'For rowers', 'wall art': 'For the wall' } },
  });
  return id;
}

async function connectLoopstall(api: ApiClient): Promise<string> {
  const { id } = await api.connect('loopstall', 'eu');
  const byGood = Object.fromEntries(
    Object.entries(LOOPSTALL_PLACES).map(([code, [category, attributes]]) => [code, { category, attributes }]),
  );
  await api.call('PATCH', `/stores/${id}`, { name: 'Brackwater Clips', answers: { warehouse: 'wh-nl', byGood } });
  return id;
}
