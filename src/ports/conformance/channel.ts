import { beforeEach, describe, expect, it } from 'vitest';
import { contentHash } from '@/core/canonical/canonical';
import { isTypicaError } from '@/core/errors';
import type { ListingForm } from '@/core/listing/form';
import {
  attemptOf,
  insist,
  later,
  makeOnce,
  put,
  remove,
  runBatch,
  uploadAll,
  type ChannelUnderTest,
  type FaultName,
} from './channel-driver';
import { sampleFormFor } from './channel-sample';

export type { ChannelUnderTest, FaultName } from './channel-driver';

type Setup = () => Promise<ChannelUnderTest>;

/** What every channel must do, whatever its shop's manners. */
export function runChannelTests(name: string, setup: Setup): void {
  runListingTests(name, setup);
  runStandingTests(name, setup);
  runOnceTests(name, setup);
  runFaultTests(name, setup);
  runKeyTests(name, setup);
  runOwnTests(name, setup);
}

interface Bench {
  t: ChannelUnderTest;
  form: ListingForm;
}

/** A connected shop before each test, with a listing that it takes. */
function onShop(setup: Setup): Bench {
  const bench = {} as Bench;
  beforeEach(async () => {
    bench.t = await setup();
    bench.form = sampleFormFor(bench.t.channel.about, bench.t.answers);
    await bench.t.client.partners?.declare(bench.form.partner);
  });
  return bench;
}

/** Puts the sample in the shop, with its pictures. */
async function list({ t, form }: Bench, visibility: 'draft' | 'live' = 'draft') {
  const pictureIds = await uploadAll(t, form);
  const { externalId, url } = await put(t, null, attemptOf(form), form, pictureIds, visibility);
  return { externalId, url, pictureIds };
}

function runListingTests(name: string, setup: Setup): void {
  describe(`channel: ${name}`, () => {
    const bench = onShop(setup);

    it('reads back exactly what was sent, so that nothing looks changed that was not', async () => {
      const { t, form } = bench;
      const { externalId, pictureIds } = await list(bench, 'live');
      const there = await t.client.read(externalId, form, pictureIds);
      expect(there).toMatchObject({ externalId, visibility: 'live', refusedPictures: [] });
      expect(there!.form).toEqual(form);
      expect(contentHash(there!.form)).toBe(contentHash(form));
      expect(there!.endsAt === null).toBe(t.channel.about.liveDays === null);
    });

    it('takes every step twice without harm', async () => {
      const { t, form } = bench;
      const { externalId, pictureIds } = await list(bench, 'live');
      const again = () => put(t, externalId, attemptOf(form), form, pictureIds, 'draft');
      await again();
      await again();
      expect((await t.client.read(externalId, form, pictureIds))!.visibility).toBe('draft');
      expect((await t.client.read(externalId, form, pictureIds))!.form).toEqual(form);
    });

    it('shows a change as a change, whoever makes it', async () => {
      const { t, form } = bench;
      const { externalId, pictureIds } = await list(bench);
      const title = form.title.replace('Crossed', 'Renamed');
      await put(t, externalId, attemptOf(form), { ...form, title }, pictureIds, 'draft');
      expect((await t.client.read(externalId, form, pictureIds))!.form).toEqual({ ...form, title });
      t.retitle(externalId, 'Somebody else wrote this');
      expect((await t.client.read(externalId, form, pictureIds))!.form.title).toBe('Somebody else wrote this');
    });

    it('takes prices, stock, order of pictures and a variant less', async () => {
      const { t, form } = bench;
      const { externalId, pictureIds } = await list(bench, 'live');
      const [coal] = Object.entries(form.variants);
      const next: ListingForm = {
        ...form,
        options: form.options.map((option) =>
          option.code === 'color' ? { ...option, values: option.values.filter(({ code }) => code === 'coal') } : option,
        ),
        variants: { [coal![0]]: { ...coal![1], priceMinor: 2345, compareAtMinor: null, inStock: false } },
        pictures: [...form.pictures].reverse(),
      };
      await put(t, externalId, attemptOf(form), next, pictureIds, 'live');
      expect((await t.client.read(externalId, form, pictureIds))!.form).toEqual(next);
    });
  });
}

function runStandingTests(name: string, setup: Setup): void {
  describe(`channel: ${name}, what stands there`, () => {
    const bench = onShop(setup);

    it('says that a listing is gone, and deletes one however often it is told', async () => {
      const { t, form } = bench;
      const { externalId, pictureIds } = await list(bench);
      await remove(t, externalId);
      await remove(t, externalId);
      expect(await t.client.read(externalId, form, pictureIds)).toBeNull();
      await expect(put(t, externalId, attemptOf(form), form, pictureIds, 'draft')).rejects.toMatchObject({
        code: 'shop-refused',
      });
    });

    it('tells what the seller has there, page by page, and what changed since', async () => {
      const { t, form } = bench;
      const { externalId } = await list(bench);
      t.passTime();
      const all = async (since: string | null) => {
        const found = [];
        let mark = since;
        for (let cursor: string | null = null; ;) {
          const page = await t.client.list(since, cursor);
          found.push(...page.listings);
          mark = page.mark;
          if (page.cursor === null) return { found, mark };
          cursor = page.cursor;
        }
      };
      const first = await all(null);
      const ours = first.found.filter((one) => one.externalId === externalId);
      expect(ours).toMatchObject([{ title: form.title, visibility: 'draft' }]);
      expect([...ours[0]!.skus].sort()).toEqual(['X-COAL-M', 'X-EST-M']);
      // Its stamp is that of a reading, until something changes.
      const stampNow = async () => (await t.client.read(externalId, form, {}))!.stamp;
      expect(await stampNow()).toBe(ours[0]!.stamp);
      t.passTime();
      t.retitle(externalId, 'Somebody else wrote this');
      expect(await stampNow()).not.toBe(ours[0]!.stamp);
      expect(first.mark !== null).toBe(t.channel.about.tellsChanges);
      if (first.mark === null) return;
      const since = await all(first.mark);
      expect(since.found.find((one) => one.externalId === externalId)).toMatchObject({
        title: 'Somebody else wrote this',
        stamp: await stampNow(),
      });
    });
  });
}

function runOnceTests(name: string, setup: Setup): void {
  describe(`channel: ${name}, once`, () => {
    const bench = onShop(setup);

    it('finds what was made although its answer was lost, and makes no second one', async () => {
      const { t, form } = bench;
      const before = await t.count();
      const pictureIds = await uploadAll(t, form);
      t.fault('loseAnswers', 1);
      const { externalId } = await makeOnce(t, form, pictureIds);
      expect(t.faultsLeft()).toBe(0);
      t.passTime();
      expect(await t.count()).toBe(before + 1);
      expect((await t.client.read(externalId, form, pictureIds))!.form).toEqual(form);
    });

    it('says that an attempt that never arrived can be made', async () => {
      const { t, form } = bench;
      t.passTime();
      expect(await t.client.settle(later(attemptOf(form)))).toEqual({ kind: 'make' });
    });

    it('takes nobody else’s listing with the same SKUs for one of an attempt', async () => {
      const { t, form } = bench;
      await list(bench);
      t.passTime();
      expect(await t.client.settle(later(attemptOf(form)))).toEqual({ kind: 'make' });
    });
  });
}

const PASSING: readonly FaultName[] = [
  'tooMany',
  'tooManyUntil',
  'unavailable',
  'failBefore',
  'failAfter',
  'loseAnswers',
  'cutAnswers',
  'brokenJson',
  'halfBatches',
  'endTokens',
];

function runFaultTests(name: string, setup: Setup): void {
  describe(`channel: ${name}, when things go wrong`, () => {
    const bench = onShop(setup);

    it.each(PASSING)('makes one listing, whole, through %s', { timeout: 30_000 }, async (fault) => {
      const { t, form } = bench;
      if (fault === 'halfBatches' && !t.client.batch) return;
      // Keys that only the seller can renew end for good: that is told apart.
      if (fault === 'endTokens' && !t.expire) return;
      const before = await t.count();
      const pictureIds = await insist(() => uploadAll(t, form));
      t.fault(fault, 1);
      const { externalId } = await makeOnce(t, form, pictureIds);
      expect(t.faultsLeft()).toBe(0);
      t.passTime();
      expect(await t.count()).toBe(before + 1);
      expect((await insist(() => t.client.read(externalId, form, pictureIds)))!.form).toEqual(form);
    });

    it('is not led astray by a clock ten minutes off', { timeout: 30_000 }, async () => {
      const { t, form } = bench;
      for (const off of [600_000, -600_000]) {
        t.clockOff(off);
        t.fault('tooManyUntil', 1);
        const began = performance.now();
        const { externalId } = await makeOnce(t, form, await uploadAll(t, form));
        expect(performance.now() - began).toBeLessThan(10_000);
        expect(await t.client.read(externalId, form, {})).not.toBeNull();
        await remove(t, externalId);
      }
    });

    it('says what the shop refuses in the shop’s words', async () => {
      const { t, form } = bench;
      const pictureIds = await uploadAll(t, form);
      const wrong = { ...form, title: '' };
      await expect(put(t, null, attemptOf(form), wrong, pictureIds, 'draft')).rejects.toSatisfy(
        (error: { code: string; fields?: { words?: string } }) => error.code === 'shop-refused',
      );
    });
  });
}

function runKeyTests(name: string, setup: Setup): void {
  describe(`channel: ${name}, keys`, () => {
    const bench = onShop(setup);
    const look =
      (t: ChannelUnderTest) =>
      (client = t.client) =>
        client.read('xx-000000000000', bench.form, {});

    it('takes its keys back for good', async () => {
      const { t } = bench;
      await t.revoke();
      await t.revoke();
      await expect(look(t)()).rejects.toSatisfy((error) => isTypicaError(error, 'shop-token'));
    });

    it('names what a connection may no longer do', async () => {
      const { t } = bench;
      if (t.scope === null) return;
      t.takeScopes([t.scope]);
      await expect(look(t)()).rejects.toMatchObject({ code: 'shop-scope', fields: { lacks: t.scope } });
      t.takeScopes([]);
      expect(await look(t)()).toBeNull();
    });

    it('renews keys once for two clients that need them at once', async () => {
      const { t } = bench;
      if (!t.expire) return;
      t.expire();
      const before = t.renewals();
      await Promise.all([look(t)(t.client), look(t)(t.second), look(t)(t.client)]);
      expect(t.renewals() - before).toBeLessThanOrEqual(1);
      expect(await look(t)(t.second)).toBeNull();
    });
  });
}

/** What only some channels have. */
function runOwnTests(name: string, setup: Setup): void {
  describe(`channel: ${name}, what only some have`, () => {
    const bench = onShop(setup);

    it('lets discount codes hold and end, by name, however often it is told', async () => {
      const { t } = bench;
      if (!t.channel.about.takesCodes) return expect(await t.client.codes()).toEqual([]);
      const share = { code: 'EBB-15', off: { kind: 'share', ppm: 125_000 }, externalIds: null } as const;
      await t.client.putCode(share);
      await t.client.putCode(share);
      const { externalId } = await list(bench);
      const sum = { code: 'FLOOD5', off: { kind: 'sum', amountMinor: 505 }, externalIds: [externalId] } as const;
      await t.client.putCode(sum);
      expect([...(await t.client.codes())].sort((a, b) => (a.code < b.code ? -1 : 1))).toEqual([share, sum]);
      await t.client.putCode({ ...share, off: { kind: 'share', ppm: 200_000 } });
      await t.client.dropCode('FLOOD5');
      await t.client.dropCode('FLOOD5');
      expect(await t.client.codes()).toEqual([{ ...share, off: { kind: 'share', ppm: 200_000 } }]);
      await t.client.dropCode('EBB-15');
      expect(await t.client.codes()).toEqual([]);
    });

    it('declares partners once', async () => {
      const { client } = bench.t;
      if (!client.partners) return expect(bench.t.channel.about.demands.partnerDeclared).toBe(false);
      await client.partners.declare({ name: 'Oststern', country: 'DE' });
      await client.partners.declare({ name: 'Oststern', country: 'DE' });
      expect([...(await client.partners.list())].sort()).toEqual(['Millrace Works', 'Oststern']);
    });

    it('answers each row of a file on its own', async () => {
      const { t, form } = bench;
      if (!t.client.batch) return expect(t.channel.about.batches).toBeNull();
      const pictureIds = await uploadAll(t, form);
      const row = { kind: 'put', externalId: null, pictureIds, visibility: 'draft' } as const;
      const answers = await runBatch(t, [
        { ...row, row: 'good', reference: 'row-1', form },
        { ...row, row: 'bad', reference: 'row-2', form: { ...form, title: '' } },
        { row: 'gone', kind: 'remove', externalId: 'xx-000000000000' },
      ]);
      const byRow = new Map(answers.map(({ row: id, outcome }) => [id, outcome.kind]));
      expect(byRow.get('good')).toBe('taken');
      expect(byRow.get('bad')).toBe('refused');
      expect(answers).toHaveLength(3);
    });

    it('knows the places of its tree and what each asks', async () => {
      const { t, form } = bench;
      if (!t.client.categories) return expect(t.channel.about.demands.category ?? false).toBe(false);
      const places = await t.client.categories();
      const place = places.find(({ id }) => id === form.category);
      expect(place?.path.length).toBeGreaterThan(1);
      expect(place?.attributes.filter(({ needed }) => needed).every(({ key }) => form.attributes[key])).toBe(true);
    });

    it('tells a picture that it took and then refused', async () => {
      const { t, form } = bench;
      if (!t.refuseNextPicture) return;
      t.refuseNextPicture();
      const { externalId, pictureIds } = await list(bench, 'live');
      t.passTime();
      const there = (await t.client.read(externalId, form, pictureIds))!;
      expect(there.visibility).toBe('draft');
      expect(there.refusedPictures).toMatchObject([{ key: form.pictures[0]!.key }]);
      expect(there.refusedPictures[0]!.words).not.toBe('');
    });

    it('renews what is live', async () => {
      const { t, form } = bench;
      if (!t.client.renew) return expect(t.channel.about.liveDays).toBeNull();
      const { externalId, pictureIds } = await list(bench, 'live');
      const { endsAt } = (await t.client.read(externalId, form, pictureIds))!;
      const until = await t.client.renew(externalId);
      expect(until.getTime() - endsAt!.getTime()).toBe(t.channel.about.liveDays! * 86_400_000);
    });
  });
}
