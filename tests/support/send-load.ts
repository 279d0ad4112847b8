import fs from 'node:fs';
import { setTimeout as delay } from 'node:timers/promises';
import { ApiClient } from '../../demo/client';
import { connectTheRest, untilExempt } from '../../demo/stores';
import type { ProductDocument } from '../../src/core/document/document';
import type { Faults } from '../../src/sim/engine/faults';

interface Ledger {
  readonly articles: readonly {
    readonly id: string;
    readonly reference: string | null;
    readonly title: string;
    readonly stage: string;
    readonly account: string;
  }[];
  readonly charges: readonly { readonly article: string }[];
}

interface Stack {
  readonly origin: string;
  readonly shops: Readonly<Record<string, string>>;
  readonly processesFile: string;
}

/** What must be so in the end; all counts 0 when it is. */
export interface SendDamage {
  readonly twice: number;
  readonly lost: number;
  readonly wrongTitle: number;
  readonly wrongFee: number;
  readonly openGroups: number;
}

const ENDING = 'by Brackwater Boathouse';

interface Mug {
  readonly blankId: string;
  readonly document: ProductDocument;
}

/** The same mug with all that is printed on it moved to the right. */
function movedBy({ blankId, document }: Mug, mm: number): Mug {
  const moved = structuredClone(document) as {
    areas: Record<string, { layers: Record<string, { placement: { xMm: number } }> }>;
  };
  for (const { layers } of Object.values(moved.areas))
    for (const { placement } of Object.values(layers)) placement.xMm += mm;
  return { blankId, document: { ...document, areas: moved.areas as never } };
}

async function mugLike(
  api: ApiClient,
  { blankId, document: { areas, variants, price } }: Mug,
  name: string,
): Promise<{ id: string; name: string; revision: number }> {
  const { id } = await api.post<{ id: string }>('/products', { blankId, title: `${name} ${ENDING}` });
  const { revision } = await api.patch<object>(id, 1, [
    { op: 'replace', path: '/areas', value: areas },
    { op: 'replace', path: '/variants', value: variants },
    { op: 'replace', path: '/price', value: price },
    { op: 'replace', path: '/words/base/description', value: 'Waves around a mug.' },
  ]);
  return { id, name, revision };
}

/** A seller who sends all their goods to five stores in four shops, over and over, whatever is killed meanwhile. */
export class SendLoad {
  private readonly groups: string[] = [];
  private take = 0;

  private constructor(
    readonly api: ApiClient,
    private readonly stack: Stack,
    private readonly storeIds: readonly string[],
    private readonly mug: Mug,
    private readonly products: { readonly id: string; readonly name: string; revision: number }[],
  ) {}

  get sends(): number {
    return this.groups.length;
  }

  get productIds(): string[] {
    return this.products.map(({ id }) => id);
  }

  static async prepare(stack: Stack, count: number): Promise<SendLoad> {
    const api = await ApiClient.signIn(stack.origin, 'demo@brackwater.example', 'ebb-and-flood');
    const rest = await connectTheRest(api);
    await untilExempt(api, rest);
    const { stores } = await api.get<{ stores: { id: string }[] }>('/stores');
    const { products } = await api.get<{ products: { id: string; blankId: string; document: ProductDocument }[] }>(
      '/products',
    );
    const mug = products.find(({ document }) => document.words.base.title.startsWith('Tideline mug'))!;
    const made: Awaited<ReturnType<typeof mugLike>>[] = [];
    for (let i = 0; i < count; i += 1) made.push(await mugLike(api, mug, `Soaked mug ${i} for crews`));
    return new SendLoad(
      api,
      stack,
      stores.map(({ id }) => id),
      mug,
      made,
    );
  }

  /** Products beside those that are looked at, of a design of their own. Gives their ids. */
  async others(count: number): Promise<string[]> {
    const ids: string[] = [];
    for (let i = 0; i < count; i += 1)
      ids.push((await mugLike(this.api, movedBy(this.mug, 1), `Other mug ${i} for crews`)).id);
    return ids;
  }

  private titleOf = (name: string) => `${name} take ${this.take} ${ENDING}`;

  /** Changes every product and sends all of them everywhere, as one group. */
  async round(): Promise<void> {
    this.take += 1;
    for (const product of this.products) {
      const value = this.titleOf(product.name);
      const { revision } = await this.api.patch<object>(product.id, product.revision, [
        { op: 'replace', path: '/words/base/title', value },
      ]);
      product.revision = revision;
    }
    const { id } = await this.api.post<{ id: string }>('/sends', {
      productIds: this.products.map((product) => product.id),
      storeIds: this.storeIds,
      visibility: 'live',
    });
    await this.api.post(`/sends/${id}/begin`);
    this.groups.push(id);
  }

  /** Kills a worker as a crash does; bin/lib/restart starts it anew. */
  kill(name: string): void {
    const list = JSON.parse(fs.readFileSync(this.stack.processesFile, 'utf8')) as { name: string; pid: number }[];
    const one = list.findLast((process) => process.name === name);
    try {
      if (one) process.kill(one.pid, 'SIGKILL');
    } catch {
      // It ended in this very moment.
    }
  }

  /** Has shops do nothing wrong any more: what is left of their faults is forgotten. */
  async calm(shops: readonly string[]): Promise<void> {
    for (const shop of shops) {
      const url = `${this.stack.shops[shop]}/control/faults`;
      const now = (await (await fetch(url)).json()) as Record<string, unknown>;
      const none = Object.fromEntries(
        Object.entries(now).flatMap(([name, n]) => (typeof n === 'number' ? [[name, 0]] : [])),
      );
      await fetch(url, { method: 'POST', body: JSON.stringify(none) });
    }
  }

  /** Has a shop do one thing wrong, once. */
  async fault(shop: string, fault: keyof Faults): Promise<void> {
    const url = `${this.stack.shops[shop]}/control/faults`;
    const now = (await (await fetch(url)).json()) as Record<string, number>;
    await fetch(url, { method: 'POST', body: JSON.stringify({ [fault]: (now[fault] ?? 0) + 1 }) });
  }

  /** Waits until nothing is open any more; what failed on the way is tried again. Gives how often. */
  async end(seconds: number): Promise<{ retried: number }> {
    let retried = 0;
    const until = Date.now() + seconds * 1000;
    for (;;) {
      const open = await this.openGroups();
      let again = 0;
      for (const id of this.groups) again += (await this.api.post<{ retried: number }>(`/sends/${id}/retry`)).retried;
      retried += again;
      if (open === 0 && again === 0) return { retried };
      if (Date.now() > until) return { retried };
      await delay(2000);
    }
  }

  private async openGroups(): Promise<number> {
    let open = 0;
    for (const id of this.groups) {
      const { state, stores } = await this.api.get<{ state: string; stores: { progress: { open: number } }[] }>(
        `/sends/${id}`,
      );
      if (state !== 'laid' || stores.some(({ progress }) => progress.open > 0)) open += 1;
    }
    return open;
  }

  async damage(): Promise<SendDamage> {
    let [twice, lost, wrongTitle, wrongFee] = [0, 0, 0, 0];
    const titles = new Set(this.products.map(({ name }) => this.titleOf(name)));
    for (const [shop, url] of Object.entries(this.stack.shops)) {
      const { articles, charges } = (await (await fetch(`${url}/control/ledger`)).json()) as Ledger;
      const stores = shop === 'plainfront' ? 2 : 1;
      for (const { name } of this.products) {
        const own = articles.filter(({ title }) => title.startsWith(`${name} take `));
        if (own.length < stores) lost += stores - own.length;
        if (own.length > stores) twice += own.length - stores;
        wrongTitle += own.filter(({ title, stage }) => !titles.has(title) || stage !== 'live').length;
        if (shop === 'pennyquay')
          wrongFee += own.filter(({ id }) => charges.filter(({ article }) => article === id).length !== 1).length;
      }
    }
    return { twice, lost, wrongTitle, wrongFee, openGroups: await this.openGroups() };
  }
}
