import type { ApiClient } from './client';
import type { DemoStores } from './stores';

interface Listed {
  readonly id: string;
  readonly title: string;
}

interface Cell {
  readonly storeId: string;
  readonly state: string;
  readonly externalId: string | null;
  readonly url: string | null;
  readonly rules: readonly { readonly id: string; readonly kept: boolean }[];
}

/** So many products go to each store in the demo; a shop's pictures are each made for it. */
const PER_STORE = 9;

/** What a title needs to be taken by a store, as the seller would write it there. */
function titleFor(store: keyof DemoStores | 'pennyquay', title: string): string | null {
  if (store === 'broadmere') return `${title} by Brackwater Boathouse`;
  return store === 'loopstall' && title.length < 25 ? `${title} from the tidal river` : null;
}

/** Puts part of the range into every store, live and as drafts, and leaves the rest as it is: with rules that are broken, and not listed. */
export async function sendTheRange(api: ApiClient, stores: DemoStores & { readonly pennyquay: string }): Promise<void> {
  const { products } = await api.get<{ products: Listed[] }>('/products?limit=50');
  const jobs: string[] = [];
  for (const [place, code] of (Object.keys(stores) as (keyof typeof stores)[]).entries()) {
    // Each store has another part of the range.
    const chosen = products.filter((_, i) => (i + place) % 4 !== 0).slice(0, PER_STORE);
    for (const [i, product] of chosen.entries()) {
      const jobId = await sendOne(api, product, code, stores[code], i % 3 === 2 ? 'draft' : 'live');
      if (jobId) jobs.push(jobId);
    }
  }
  for (const id of jobs) await api.job(id, 1800);
  await driftApart(api, products, stores);
}

/** The shop's own page of a listing, for its seller, with what stands in its form. */
async function retitleThere(listing: Cell, title: string): Promise<void> {
  const page = `${new URL(listing.url!).origin}/desk/${listing.externalId}`;
  const html = await (await fetch(page)).text();
  const form = new URLSearchParams();
  for (const [, name, value] of html.matchAll(/<input[^>]* name="([^"]+)"[^>]* value="([^"]*)"/g))
    form.set(name!, plain(value!));
  for (const [, name, text] of html.matchAll(/<textarea[^>]* name="([^"]+)"[^>]*>([^<]*)<\/textarea>/g))
    form.set(name!, plain(text!));
  const category = /<option value="([^"]+)" selected/.exec(html)?.[1];
  if (category) form.set('category', category);
  form.set('title', title);
  await fetch(page, { method: 'POST', body: form, redirect: 'manual' });
}

const plain = (html: string): string => html.replace(/&#(\d+);/g, (_, n) => String.fromCharCode(Number(n)));

/** What happens in a working week: changed here, changed in the shop, changed in both, and refused by a rule that no shop tells beforehand. */
async function driftApart(
  api: ApiClient,
  products: readonly Listed[],
  { pennyquay, plainfrontUk }: DemoStores & { readonly pennyquay: string },
): Promise<void> {
  const listed: { product: Listed; listing: Cell }[] = [];
  for (const product of products) {
    const { listings } = await api.get<{ listings: Cell[] }>(`/products/${product.id}/listings`);
    const listing = listings.find(({ storeId, state }) => storeId === plainfrontUk && state === 'in-step');
    if (listing) listed.push({ product, listing });
  }
  const edit = async ({ id }: Listed, storeId: string, title: string) => {
    const { revision } = await api.get<{ revision: number }>(`/products/${id}`);
    await api.patch(id, revision, [{ op: 'add', path: `/words/stores/${storeId}`, value: { title } }]);
  };
  const [behind, split, ahead, refused] = listed;
  for (const one of [behind, split])
    if (one) {
      await retitleThere(one.listing, `${one.product.title}, from our own window`);
      const path = `/products/${one.product.id}/listings/${plainfrontUk}/check`;
      await api.job((await api.post<{ jobId: string }>(path)).jobId, 300);
    }
  for (const one of [split, ahead])
    if (one) await edit(one.product, plainfrontUk, `${one.product.title}, this season’s`);
  if (!refused) return;
  await edit(refused.product, pennyquay, `${refused.product.title}, a dupe of nothing`);
  const { jobId } = await api.post<{ jobId: string }>(`/products/${refused.product.id}/listings`, {
    storeId: pennyquay,
    visibility: 'draft',
  });
  await api.job(jobId, 600);
}

async function sendOne(
  api: ApiClient,
  { id, title }: Listed,
  code: keyof DemoStores | 'pennyquay',
  storeId: string,
  visibility: 'draft' | 'live',
): Promise<string | null> {
  const own = titleFor(code, title);
  if (own) {
    const { revision } = await api.get<{ revision: number }>(`/products/${id}`);
    await api.patch(id, revision, [{ op: 'add', path: `/words/stores/${storeId}`, value: { title: own } }]);
  }
  const { listings } = await api.get<{ listings: Cell[] }>(`/products/${id}/listings`);
  const rules = listings.find((one) => one.storeId === storeId)?.rules ?? [];
  if (rules.some(({ kept }) => !kept)) return null;
  return (await api.post<{ jobId: string }>(`/products/${id}/listings`, { storeId, visibility })).jobId;
}
