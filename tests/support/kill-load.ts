import fs from 'node:fs';
import { setTimeout as delay } from 'node:timers/promises';
import { ApiClient } from '../../demo/client';
import type { ProductDocument } from '../../src/core/document/document';

interface Item {
  readonly id: string;
  readonly reference: string | null;
  readonly title: string;
  readonly stage: string;
}
interface Ledger {
  readonly articles: readonly Item[];
  readonly charges: readonly { readonly article: string; readonly what: string }[];
}
interface Product {
  readonly id: string;
  revision: number;
  /** The last title whose saving was answered. */
  title: string;
  listingId: string | null;
}

export type Victim = 'web' | 'worker-1' | 'pennyquay' | 'database';

/** What must be so after everything was killed over and over; empty when it is. */
export interface Damage {
  readonly notOnce: readonly string[];
  readonly wrongTitle: readonly string[];
  readonly wrongFee: readonly string[];
  readonly lostEdit: readonly string[];
  readonly jobs: readonly string[];
}

const CALL_MS = 8_000;

/** A seller who edits and sends all the time, whatever is killed meanwhile, and who asks again until there is an answer. */
export class KillLoad {
  private readonly products: Product[] = [];
  private storeId = '';
  private stopped = false;
  private lanes: Promise<void>[] = [];
  edits = 0;
  sends = 0;

  private constructor(
    private readonly api: ApiClient,
    private readonly origin: string,
    private readonly shopUrl: string,
    private readonly processesFile: string,
  ) {}

  /** Makes products like the demo's mug, never sent yet. */
  static async prepare(
    stack: { origin: string; shopUrl: string; processesFile: string },
    count: number,
  ): Promise<KillLoad> {
    const api = await ApiClient.signIn(stack.origin, 'demo@brackwater.example', 'ebb-and-flood');
    const load = new KillLoad(api, stack.origin, stack.shopUrl, stack.processesFile);
    const { products } = await api.get<{ products: { id: string; blankId: string; document: ProductDocument }[] }>(
      '/products',
    );
    const mug = products.find(({ document }) => document.words.base.title.startsWith('Tideline mug'))!;
    const { stores } = await api.get<{ stores: { id: string }[] }>('/stores');
    load.storeId = stores[0]!.id;
    for (let i = 0; i < count; i += 1) {
      const { id } = await api.post<{ id: string }>('/products', { blankId: mug.blankId, title: `Mug ${i}` });
      const { areas, variants, price } = mug.document;
      const { revision } = await api.patch<object>(id, 1, [
        { op: 'replace', path: '/areas', value: areas },
        { op: 'replace', path: '/variants', value: variants },
        { op: 'replace', path: '/price', value: price },
        { op: 'replace', path: '/words/base/description', value: 'Waves around a mug.' },
      ]);
      load.products.push({ id, revision, title: `Mug ${i}`, listingId: null });
    }
    return load;
  }

  /** Asks until there is an answer that is no failure of the moment. */
  private async insist<T>(method: string, path: string, body?: unknown, headers?: Record<string, string>): Promise<T> {
    for (;;) {
      try {
        const answer = await Promise.race([
          this.api.request(method, path, body, headers),
          delay(CALL_MS).then(() => null),
        ]);
        if (answer && answer.status < 500 && answer.status !== 429) {
          const text = await answer.text();
          if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${text}`);
          return JSON.parse(text) as T;
        }
      } catch (error) {
        if (/: 4\d\d /.test((error as Error).message)) throw error;
      }
      await delay(150);
    }
  }

  begin(): void {
    this.lanes = this.products.map((product) => this.lane(product));
  }

  private async lane(product: Product): Promise<void> {
    for (let round = 1; !this.stopped || round <= 1; round += 1) {
      const next = `${product.title.split(',')[0]}, take ${round}`;
      const { revision } = await this.insist<{ revision: number }>(
        'PATCH',
        `/products/${product.id}`,
        [{ op: 'replace', path: '/words/base/title', value: next }],
        { 'if-match': `"${product.revision}"`, 'idempotency-key': `${product.id}-${round}` },
      );
      Object.assign(product, { revision, title: next });
      this.edits += 1;
      const asked = { storeId: this.storeId, visibility: 'live' };
      const { jobId, listingId } = await this.insist<{ jobId: string; listingId: string }>(
        'POST',
        `/products/${product.id}/listings`,
        asked,
      );
      product.listingId = listingId;
      for (;;) {
        const { state } = await this.insist<{ state: string }>('GET', `/jobs/${jobId}`);
        if (['done', 'failed', 'cancelled'].includes(state)) break;
        await delay(300);
      }
      this.sends += 1;
    }
  }

  /** Ends a process as a crash does; gives after how long everything answers again, ms. */
  async kill(victim: Victim): Promise<number> {
    const list = JSON.parse(fs.readFileSync(this.processesFile, 'utf8')) as { name: string; pid: number }[];
    const one = list.findLast(({ name }) => name === victim);
    if (!one) return 0;
    const began = Date.now();
    try {
      process.kill(one.pid, 'SIGKILL');
    } catch {
      // It ended in this very moment.
    }
    await delay(50);
    await this.untilUp();
    return Date.now() - began;
  }

  private async untilUp(): Promise<void> {
    for (;;) {
      const up = await Promise.all(
        [`${this.origin}/api/v1/health`, `${this.shopUrl}/health`].map((url) =>
          fetch(url, { signal: AbortSignal.timeout(2000) }).then(
            (answer) => answer.ok,
            () => false,
          ),
        ),
      );
      if (up.every(Boolean)) return;
      await delay(50);
    }
  }

  /** Lets every lane end its round. */
  async end(): Promise<void> {
    this.stopped = true;
    await Promise.all(this.lanes);
  }

  async damage(): Promise<Damage> {
    const ledger = (await (await fetch(`${this.shopUrl}/control/ledger`)).json()) as Ledger;
    const found = { notOnce: [], wrongTitle: [], wrongFee: [], lostEdit: [], jobs: [] } as Record<string, string[]>;
    for (const { id, listingId, title } of this.products) {
      const items = ledger.articles.filter((item) => item.reference === listingId);
      if (items.length !== 1) found.notOnce!.push(`${title}: ${items.length}`);
      const [item] = items;
      if (item && (item.title !== title || item.stage !== 'live'))
        found.wrongTitle!.push(`${title}: ${item.title}, ${item.stage}`);
      const fees = ledger.charges.filter((charge) => charge.article === item?.id);
      if (fees.length !== 1) found.wrongFee!.push(`${title}: ${fees.length}`);
      const { document } = await this.insist<{ document: ProductDocument }>('GET', `/products/${id}`);
      if (document.words.base.title !== title) found.lostEdit!.push(`${title}: ${document.words.base.title}`);
    }
    const { jobs } = await this.insist<{ jobs: { id: string; title: string; state: string }[] }>('GET', '/jobs');
    for (const job of jobs) if (job.state === 'failed') found.jobs!.push(`${job.title}: ${job.state}`);
    return found as unknown as Damage;
  }
}
