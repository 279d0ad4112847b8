import fc from 'fast-check';
import type { ListingForm } from '@/core/listing/form';
import type { Operation } from '@/core/document/patch';
import { isTypicaError } from '@/core/errors';
import type { Channel, ChannelClient } from '@/ports/channel';
import type { Context } from '@/server/context';
import { claim } from '@/server/jobs/claim';
import { handlers } from '@/server/jobs/handlers';
import { runJob } from '@/server/jobs/worker';
import { prepareListed, requestCheck, standingOf } from '@/server/listings/listings';
import { listingAt } from '@/server/listings/place';
import { requestSend } from '@/server/listings/request-send';
import { differencesOf, settle } from '@/server/listings/settle';
import type { Actor } from '@/server/people/people';
import { loadBundle } from '@/server/products/bundle';
import { patchProduct } from '@/server/products/patch';
import { findProduct } from '@/server/products/products';
import type { Store } from '@/server/stores/stores';
import type { World } from './world';

/**
 * Histories of one listing against a bookkeeping of their own: what each side holds, field by field, and which values of the shop somebody knew when they
 * were to be written over. Everything that the program does is looked at from outside: the product's form, and the shop's own records.
 */
export const FIELDS = ['title', 'description', 'price'] as const;
type Field = (typeof FIELDS)[number];
type Side = { [field in Field]: string | number };

const FAULTS = ['failBefore', 'failAfter', 'loseAnswers', 'cutAnswers', 'brokenJson', 'unavailable'] as const;

export type Step =
  | { readonly kind: 'here' | 'there'; readonly field: Field }
  | { readonly kind: 'send'; readonly fault: (typeof FAULTS)[number] | null; readonly killAt: number | null }
  | { readonly kind: 'read' }
  | { readonly kind: 'settle'; readonly hold: 'ours' | 'theirs'; readonly field: Field };

const field = fc.constantFrom(...FIELDS);
const step: fc.Arbitrary<Step> = fc.oneof(
  { weight: 4, arbitrary: fc.record({ kind: fc.constantFrom('here' as const, 'there' as const), field }) },
  {
    weight: 3,
    arbitrary: fc.record({
      kind: fc.constant('send' as const),
      fault: fc.option(fc.constantFrom(...FAULTS), { freq: 2 }),
      // At which question to the shop the worker dies; null: it lives.
      killAt: fc.option(fc.integer({ min: 1, max: 5 }), { freq: 2 }),
    }),
  },
  { weight: 1, arbitrary: fc.constant({ kind: 'read' as const }) },
  {
    weight: 2,
    arbitrary: fc.record({
      kind: fc.constant('settle' as const),
      hold: fc.constantFrom('ours' as const, 'theirs' as const),
      field,
    }),
  },
);

/** The same histories for the same seed. */
export const syncHistories = (count: number, seed: number): Step[][] =>
  fc.sample(fc.array(step, { minLength: 3, maxLength: 9 }), { numRuns: count, seed });

/** A worker that dies at one of its questions to the shop: the question, or its answer, gets lost with it, and it hangs until it is let go. */
export class Killer {
  private left: number | null = null;
  private afterwards = false;
  private die: (() => void) | null = null;
  private wake: ((error: Error) => void)[] = [];

  /** Settles when the worker is dead. */
  arm(at: number): Promise<void> {
    this.left = at;
    this.afterwards = at % 2 === 0;
    return new Promise((resolve) => (this.die = resolve));
  }

  disarm(): void {
    this.left = null;
  }

  /** What hung wakes up, as a process that was stopped for long: whatever it does then must come to nothing. */
  wakeUp(): void {
    for (const wake of this.wake) wake(new Error('the worker woke up'));
    this.wake = [];
  }

  async ask<T>(work: () => Promise<T>): Promise<T> {
    if (this.left === null) return work();
    this.left -= 1;
    if (this.left > 0) return work();
    this.left = null;
    if (this.afterwards) await work().catch(() => undefined);
    return new Promise<T>((_resolve, reject) => {
      this.wake.push(reject);
      this.die?.();
    });
  }

  /** A channel whose clients ask through this. */
  over(channel: Channel): Channel {
    return {
      ...channel,
      open: (secrets, hooks) => {
        const client = channel.open(secrets, hooks);
        const asks = (name: 'settle' | 'create' | 'uploadPicture' | 'update' | 'show' | 'read') =>
          ((...given: unknown[]) =>
            this.ask(() => (client[name] as (...all: unknown[]) => Promise<unknown>)(...given))) as never;
        const asked: Partial<ChannelClient> = {
          settle: asks('settle'),
          create: asks('create'),
          uploadPicture: asks('uploadPicture'),
          update: asks('update'),
          show: asks('show'),
          read: asks('read'),
        };
        return { ...client, ...asked };
      },
    };
  }
}

/** The same program, which waits for no shop that takes few questions a second; to be used before any of them is asked. */
export const unhurried = (ctx: Context): Context => ({
  ...ctx,
  channels: new Map(
    [...ctx.channels].map(([code, channel]) => {
      const rate = { ...channel.about.rate, perSecond: 1000 };
      return [code, { ...channel, about: { ...channel.about, rate } }] as const;
    }),
  ),
});

/** What came of histories, counted. */
export interface Tally {
  readonly steps: number;
  readonly kills: number;
  readonly faults: number;
  readonly sends: number;
  readonly conflicts: number;
  readonly settled: number;
}

interface Told {
  /** Faults of the program, each in a sentence with the history's number; none is right. */
  readonly wrong: readonly string[];
  readonly tally: Tally;
}

/** Rounds in which a listing must be in step once nothing disturbs it. */
const QUIET_ROUNDS = 4;

/** One listing that lives through histories, and the book that is kept of it. */
export class SyncLife {
  private readonly wrong: string[] = [];
  private readonly tally = { steps: 0, kills: 0, faults: 0, sends: 0, conflicts: 0, settled: 0 };
  private tokens = 0;
  private book!: { here: Side; there: Side; mayGo: Map<Field, Set<string | number>> };
  private name = '';
  private readonly ctx: Context;
  private readonly killer = new Killer();

  constructor(
    private readonly world: World,
    private readonly actor: Actor,
    private readonly store: Store,
    private readonly productId: string,
    private readonly variantKey: string,
  ) {
    const channels = [...world.ctx.channels].map(([code, channel]) => [code, this.killer.over(channel)] as const);
    this.ctx = { ...world.ctx, channels: new Map(channels) };
  }

  private bundle = () => loadBundle(this.ctx, this.actor.workspaceId, this.productId);
  private row = async () => (await listingAt(this.ctx, this.actor.workspaceId, this.productId, this.store.id, 1))!;
  private async now() {
    const [bundle, row] = [await this.bundle(), await this.row()];
    const prepared = prepareListed(this.ctx, bundle, this.store, row);
    return { bundle, row, form: prepared.form!, state: standingOf(row, prepared), prepared };
  }

  private ofForm = ({ title, description, variants }: ListingForm): Side => ({
    title,
    description,
    price: variants[this.variantKey]!.priceMinor,
  });

  private async article() {
    const { externalId } = await this.row();
    return this.world.shop.world.articles.get(externalId!)!;
  }

  private async seenThere(): Promise<Side> {
    const { title, text, variants } = await this.article();
    const { sku } = (await this.now()).form.variants[this.variantKey]!;
    return { title, description: text, price: variants.find((one) => one.sku === sku)!.priceMinor };
  }

  /** Sends it for the first time, and opens the book. */
  async begin(): Promise<void> {
    await requestSend(this.ctx, await this.bundle(), this.store, 'live');
    await this.work(null);
    const here = this.ofForm((await this.now()).form);
    this.book = { here, there: here, mayGo: new Map() };
    this.agreed(here);
  }

  /** What both sides hold may be written over: it is known. */
  private agreed(both: Side): void {
    for (const one of FIELDS) this.book.mayGo.set(one, new Set([both[one]]));
  }

  private blame = (says: string) => void this.wrong.push(`${this.name}: ${says}`);

  /** Looks at both sides after a step of the program, which may have brought ours there, and nothing else. */
  private async look(after: string): Promise<void> {
    const [here, there] = [this.ofForm((await this.now()).form), await this.seenThere()];
    for (const one of FIELDS) {
      const { here: ours, there: theirs, mayGo } = this.book;
      if (here[one] !== ours[one]) this.blame(`${after} lost the edit ${ours[one]} of ${one} here: it is ${here[one]}`);
      if (there[one] === theirs[one]) continue;
      if (there[one] !== ours[one]) this.blame(`${after} made ${one} ${there[one]} there, which nobody wrote`);
      else if (!mayGo.get(one)!.has(theirs[one])) this.blame(`${after} wrote over ${theirs[one]} of ${one} in silence`);
    }
    this.book = { ...this.book, here, there };
    const own = this.world.shop.world.articles.all().filter(({ title }) => title === there.title);
    if (own.length !== 1) this.blame(`${after} left the listing there ${own.length} times`);
  }

  private token = () => (this.tokens += 1);

  private async editHere(one: Field): Promise<void> {
    const { revision, document } = await findProduct(this.ctx, this.actor.workspaceId, this.productId);
    const n = this.token();
    const own = document.words.stores[this.store.id];
    const path = own && one in own ? `/words/stores/${this.store.id}/${one}` : `/words/base/${one}`;
    const aim = { kind: 'retail', amountMinor: 3000 + (n % 4000) };
    const change: Operation =
      one === 'price'
        ? this.priceChange(document.price.stores[this.store.id] !== undefined, aim)
        : { op: 'replace', path, value: `Here ${n}` };
    await patchProduct(this.ctx, this.actor, this.productId, revision, [change]);
    const here = this.ofForm((await this.now()).form);
    const wanted = one === 'price' ? aim.amountMinor : `Here ${n}`;
    // The base's price is in the seller's currency: what it is in the shop's is not reckoned here.
    if (here[one] !== wanted && one !== 'price') this.blame(`an edit here of ${one} to ${wanted} came to ${here[one]}`);
    this.book = { ...this.book, here: { ...this.book.here, [one]: here[one] } };
  }

  private priceChange(isOwn: boolean, aim: object): Operation {
    const key = this.variantKey;
    return isOwn
      ? { op: 'add', path: `/price/stores/${this.store.id}/variants/${key}`, value: aim }
      : { op: 'add', path: `/price/base/variants/${key}`, value: aim };
  }

  private async editThere(one: Field): Promise<void> {
    const article = await this.article();
    const n = this.token();
    const { sku } = (await this.now()).form.variants[this.variantKey]!;
    const priceMinor = 3000 + (n % 4000);
    const changed =
      one === 'price'
        ? { variants: article.variants.map((own) => (own.sku === sku ? { ...own, priceMinor } : own)) }
        : { [one === 'title' ? 'title' : 'text']: `There ${n}` };
    this.world.shop.world.articles.put(article.id, { ...article, ...changed, changedAt: Date.now() + n });
    this.book = { ...this.book, there: await this.seenThere() };
  }

  /** Works until nothing is left to do; with a kill the first worker dies, another takes over, and the dead one wakes up. */
  private async work(killAt: number | null): Promise<void> {
    for (let at = killAt; ; at = null) {
      await this.ctx.db.run("UPDATE job SET run_after = UTC_TIMESTAMP(3) WHERE state = 'queued'");
      const lease = await claim(this.ctx, Object.keys(handlers));
      if (!lease) return;
      const run = runJob(this.ctx, lease, handlers[lease.job.kind]!);
      if (at === null) {
        await run;
        continue;
      }
      const died = await Promise.race([this.killer.arm(at).then(() => true), run.then(() => false)]);
      this.killer.disarm();
      if (!died) continue;
      this.tally.kills += 1;
      await this.ctx.db.run("UPDATE job SET lease_until = UTC_TIMESTAMP(3) WHERE state = 'running'");
      await this.work(null);
      this.killer.wakeUp();
      await run;
    }
  }

  private async send({ fault, killAt }: Extract<Step, { kind: 'send' }>): Promise<void> {
    this.tally.sends += 1;
    if (fault) {
      this.tally.faults += 1;
      this.world.shop.world.faults.now[fault] = 1;
    }
    await requestSend(this.ctx, await this.bundle(), this.store, 'live');
    await this.work(killAt);
    for (const one of FAULTS) this.world.shop.world.faults.now[one] = 0;
    await this.look('a send');
    const { state } = await this.now();
    if (state === 'in-step') this.agreed(this.book.there);
    else if (state === 'behind' || state === 'split') this.tally.conflicts += 1;
  }

  private async read(): Promise<void> {
    await requestCheck(this.ctx, await this.row(), this.store.name);
    await this.work(null);
    await this.look('a reading');
  }

  private async settle(hold: 'ours' | 'theirs', which: (pointer: string) => boolean): Promise<void> {
    const { bundle, row, form } = await this.now();
    const known = row.thereForm ? this.ofForm(JSON.parse(row.thereForm) as ListingForm) : null;
    const differs = differencesOf(row, form).filter(
      ({ field: pointer, change }) => change !== 'here' && which(pointer),
    );
    if (!known || differs.length === 0) return;
    const settles = ({ field: pointer, change }: { field: string; change: string }) =>
      change !== 'here' && which(pointer) ? hold : null;
    try {
      await settle(this.ctx, this.actor, bundle, this.store, row, {
        settles,
        where: 'store',
        thereHash: row.thereHash!,
      });
    } catch (error) {
      if (!isTypicaError(error) || !error.visible) throw error;
      await this.look('a settlement that was refused');
      return;
    }
    this.tally.settled += 1;
    let here: Side = this.book.here;
    for (const one of FIELDS) {
      if (!differs.some(({ field: pointer }) => this.isOf(one, pointer))) continue;
      if (hold === 'theirs') here = { ...here, [one]: known[one] };
      // Both know the shop's value from here on.
      this.book.mayGo.get(one)!.add(known[one]);
    }
    this.book = { ...this.book, here };
    await this.look('a settlement');
  }

  private isOf = (one: Field, pointer: string): boolean =>
    one === 'price' ? pointer === `/variants/${this.variantKey}/priceMinor` : pointer === `/${one}`;

  /** Lives through one history, and then until it is quiet: by then both sides must hold the same. */
  async live(steps: readonly Step[], name: string): Promise<void> {
    this.name = name;
    for (const one of steps) {
      this.tally.steps += 1;
      if (one.kind === 'here') await this.editHere(one.field);
      else if (one.kind === 'there') await this.editThere(one.field);
      else if (one.kind === 'send') await this.send(one);
      else if (one.kind === 'read') await this.read();
      else if (one.kind === 'settle') await this.settle(one.hold, (pointer) => this.isOf(one.field, pointer));
    }
    for (let round = 0; round < QUIET_ROUNDS; round += 1) {
      await this.read();
      await this.settle(round % 2 === 0 ? 'theirs' : 'ours', () => true);
      await this.send({ kind: 'send', fault: null, killAt: null });
      if ((await this.now()).state === 'in-step') break;
    }
    const { state } = await this.now();
    if (state !== 'in-step') this.blame(`it is ${state} when all is quiet`);
    for (const one of FIELDS)
      if (this.book.here[one] !== this.book.there[one])
        this.blame(`${one} is ${this.book.here[one]} here and ${this.book.there[one]} there when all is quiet`);
    this.agreed(this.book.there);
  }

  told = (): Told => ({ wrong: this.wrong, tally: this.tally });
}
