import type { ApiClient } from './client';
import type { DemoStores } from './stores';

interface Listed {
  readonly id: string;
  readonly title: string;
}

interface Cell {
  readonly storeId: string;
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
