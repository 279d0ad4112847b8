import { beforeEach, describe, expect, it } from 'vitest';
import { contentHash } from '@/core/canonical/canonical';
import { isTypicaError } from '@/core/errors';
import { FORM_FORMAT, type ListingForm } from '@/core/listing/form';
import type { Channel, ChannelClient, CreateAttempt } from '../channel';

/** A channel against its simulator, with a client of a connected shop and the means to misbehave. */
export interface ChannelUnderTest {
  readonly channel: Channel;
  readonly client: ChannelClient;
  /** Gives back the keys that the client holds. */
  revoke(): Promise<void>;
  /** How many listings the shop holds. */
  count(): Promise<number>;
  /** The next creation is done, and its answer lost. */
  loseNextAnswer(): void;
  /** Lets all that the shop delays become visible. */
  passTime(): void;
  /** A picture that the shop takes. */
  readonly picture: Uint8Array;
}

export const sampleForm: ListingForm = {
  format: FORM_FORMAT,
  title: 'Crossed Blades tee',
  description: 'The crest.\n\nPrinted to order. “Quotes”, <tags> & é.',
  tags: ['rowing', 'river & tide'],
  currency: 'USD',
  options: [
    {
      code: 'color',
      name: 'Color',
      values: [
        { code: 'estuary', name: 'Estuary' },
        { code: 'coal', name: 'Coal' },
      ],
    },
    { code: 'size', name: 'Size', values: [{ code: 'm', name: 'M' }] },
  ],
  variants: {
    'color=coal;size=m': { sku: 'X-COAL-M', priceMinor: 2150, compareAtMinor: 2550, inStock: true, pictureKey: 'k2' },
    'color=estuary;size=m': {
      sku: 'X-EST-M',
      priceMinor: 1999,
      compareAtMinor: null,
      inStock: false,
      pictureKey: 'k1',
    },
  },
  pictures: [
    { key: 'k1', alt: 'in Estuary' },
    { key: 'k2', alt: 'in Coal' },
  ],
  shipping: [{ countries: ['US', 'CA'], firstMinor: 905, furtherMinor: 315 }],
  partner: { name: 'Millrace Works', country: 'GB' },
};

const attempt = (n: number): CreateAttempt => ({
  key: `key-${n}-${Math.round(performance.now() * 1000)}`,
  reference: `ref-${n}-${Math.round(performance.now() * 1000)}`,
  sentAt: new Date(),
});

type Setup = () => Promise<ChannelUnderTest>;

/** Puts the sample in a shop, with its pictures. */
async function list({ client, picture }: ChannelUnderTest) {
  const { externalId, url } = await client.create(attempt(1), sampleForm);
  const pictureIds: Record<string, string> = {};
  for (const { key } of sampleForm.pictures)
    pictureIds[key] = await client.uploadPicture(externalId, { key, mediaType: 'image/jpeg', bytes: picture });
  await client.update(externalId, sampleForm, pictureIds);
  return { externalId, url, pictureIds };
}

/** What every channel must do, whatever its shop's manners. */
export function runChannelTests(name: string, setup: Setup): void {
  runListingTests(name, setup);
  runCodeTests(name, setup);
}

function runCodeTests(name: string, setup: Setup): void {
  describe(`channel: ${name}, codes and keys`, () => {
    let t: ChannelUnderTest;
    beforeEach(async () => {
      t = await setup();
      await t.client.declarePartner(sampleForm.partner);
    });

    it('lets discount codes hold and end, by name, however often it is told', async () => {
      const share = { code: 'EBB-15', off: { kind: 'share', ppm: 125_000 }, externalIds: null } as const;
      await t.client.putCode(share);
      await t.client.putCode(share);
      const { externalId } = await list(t);
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

    it('takes its keys back for good', async () => {
      await t.revoke();
      await t.revoke();
      await expect(t.client.declaredPartners()).rejects.toSatisfy((error) => isTypicaError(error, 'shop-token'));
    });
  });
}

function runListingTests(name: string, setup: Setup): void {
  describe(`channel: ${name}`, () => {
    let t: ChannelUnderTest;
    beforeEach(async () => {
      t = await setup();
      await t.client.declarePartner(sampleForm.partner);
    });

    it('reads back exactly what was sent, so that nothing looks changed that was not', async () => {
      const { externalId, pictureIds } = await list(t);
      await t.client.show(externalId, 'live');
      const there = await t.client.read(externalId, sampleForm, pictureIds);
      expect(there).toMatchObject({ externalId, visibility: 'live' });
      expect(there!.form).toEqual(sampleForm);
      expect(contentHash(there!.form)).toBe(contentHash(sampleForm));
    });

    it('takes every step twice without harm', async () => {
      const { externalId, pictureIds } = await list(t);
      await t.client.update(externalId, sampleForm, pictureIds);
      await t.client.show(externalId, 'live');
      await t.client.show(externalId, 'live');
      await t.client.declarePartner(sampleForm.partner);
      expect(await t.client.declaredPartners()).toEqual(['Millrace Works']);
      await t.client.show(externalId, 'draft');
      expect((await t.client.read(externalId, sampleForm, pictureIds))!.visibility).toBe('draft');
    });

    it('shows a change as a change', async () => {
      const { externalId, pictureIds } = await list(t);
      await t.client.update(externalId, { ...sampleForm, title: 'Renamed' }, pictureIds);
      expect((await t.client.read(externalId, sampleForm, pictureIds))!.form.title).toBe('Renamed');
    });

    it('finds what was made although its answer was lost, and makes no second one', async () => {
      const before = await t.count();
      const a = attempt(2);
      t.loseNextAnswer();
      await expect(t.client.create(a, sampleForm)).rejects.toMatchObject({ code: 'shop-unreachable' });
      let settled = await t.client.settle(a);
      if (settled.kind === 'wait') {
        expect(settled.retryAfterMs).toBeGreaterThan(0);
        t.passTime();
        settled = await t.client.settle(a);
      }
      const ref = settled.kind === 'made' ? settled.listing : await t.client.create(a, sampleForm);
      expect(ref.externalId).toBeTruthy();
      expect(await t.count()).toBe(before + 1);
    });

    it('says that an attempt that never arrived can be made', async () => {
      t.passTime();
      expect(await t.client.settle(attempt(3))).toEqual({ kind: 'make' });
    });

    it('says that a listing is gone', async () => {
      expect(await t.client.read('it-000000000000', sampleForm, {})).toBeNull();
      await expect(t.client.update('it-000000000000', sampleForm, {})).rejects.toMatchObject({ code: 'shop-refused' });
    });
  });
}
