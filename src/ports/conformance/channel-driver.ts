import { isTypicaError } from '@/core/errors';
import type { ListingForm } from '@/core/listing/form';
import type { BatchRow, Channel, ChannelClient, CreateAttempt, PictureIds, RemoteRef, RowAnswer } from '../channel';
import type { SampleAnswers } from './channel-sample';

/** Misbehavior that a simulator can be asked for; the next requests meet it. */
export type FaultName =
  | 'tooMany'
  | 'tooManyUntil'
  | 'unavailable'
  | 'failBefore'
  | 'failAfter'
  | 'loseAnswers'
  | 'cutAnswers'
  | 'brokenJson'
  | 'halfBatches'
  | 'endTokens';

/** A channel against its simulator, with a client of a connected shop and the means to misbehave. */
export interface ChannelUnderTest {
  readonly channel: Channel;
  readonly client: ChannelClient;
  /** One more client of the same store: both renew keys through one place, as all workers do. */
  readonly second: ChannelClient;
  /** How often keys were renewed. */
  readonly renewals: () => number;
  readonly answers?: SampleAnswers;
  /** Gives back, or ends in the shop, the keys that the clients hold. */
  revoke(): Promise<void>;
  /** How many listings the shop holds. */
  count(): Promise<number>;
  /** The next `times` requests that it can happen to meet this fault. */
  fault(name: FaultName, times: number): void;
  /** Whether all that was asked for happened. */
  faultsLeft(): number;
  /** The shop's clock is off by so much from now on, ms. */
  clockOff(ms: number): void;
  /** The shop lets no program do this any longer; an empty list gives it back. */
  takeScopes(scopes: readonly string[]): void;
  /** Of what the clients need: a scope that can be taken. */
  readonly scope: string | null;
  /** Keys run out; absent where only the seller can renew them. */
  readonly expire?: () => void;
  /** Lets all that the shop delays come about. */
  passTime(): void;
  /** Somebody writes another title in the shop itself. */
  retitle(externalId: string, title: string): void;
  /** The next picture is taken and later refused; absent where pictures are not judged. */
  readonly refuseNextPicture?: () => void;
  /** Pictures that the shop takes. */
  readonly pictures: readonly Uint8Array[];
}

let attempts = 0;

export function attemptOf(form: ListingForm): CreateAttempt {
  attempts += 1;
  const mark = `${attempts}-${Math.round(performance.now() * 1000)}`;
  return {
    key: `key-${mark}`,
    reference: `ref-${mark}`,
    sentAt: new Date(),
    skus: Object.values(form.variants).map(({ sku }) => sku),
  };
}

/** As an attempt is seen when all delays are over. */
export const later = (attempt: CreateAttempt): CreateAttempt => ({
  ...attempt,
  sentAt: new Date(attempt.sentAt.getTime() - 3_600_000),
});

export async function uploadAll({ client, pictures }: ChannelUnderTest, form: ListingForm): Promise<PictureIds> {
  const ids: Record<string, string> = {};
  for (const [i, { key }] of form.pictures.entries())
    ids[key] = await client.uploadPicture({ key, mediaType: 'image/jpeg', bytes: pictures[i % pictures.length]! });
  return ids;
}

/** Sends rows and waits for their answers. */
export async function runBatch(t: ChannelUnderTest, rows: readonly BatchRow[]): Promise<readonly RowAnswer[]> {
  const { ticket } = await t.client.batch!.submit(rows);
  for (;;) {
    t.passTime();
    const { done, rows: answers } = await t.client.batch!.answers(ticket);
    if (done) return answers;
  }
}

const putRow = (
  externalId: string | null,
  reference: string,
  form: ListingForm,
  pictureIds: PictureIds,
  visibility: 'draft' | 'live',
): BatchRow => ({ row: 'r1', kind: 'put', externalId, reference, form, pictureIds, visibility });

/** Makes a listing, or brings one to a form: one by one, or by a file of one row. A row that is refused throws as a request would. */
export async function put(
  t: ChannelUnderTest,
  externalId: string | null,
  attempt: CreateAttempt,
  form: ListingForm,
  pictureIds: PictureIds,
  visibility: 'draft' | 'live',
): Promise<RemoteRef> {
  if (!t.client.batch) {
    const ref = externalId === null ? await t.client.create(attempt, form) : { externalId, url: '' };
    await t.client.update(ref.externalId, form, pictureIds);
    await t.client.show(ref.externalId, visibility);
    return ref;
  }
  const [answer] = await runBatch(t, [putRow(externalId, attempt.reference, form, pictureIds, visibility)]);
  if (answer?.outcome.kind === 'taken') return answer.outcome.listing;
  throw Object.assign(new Error('the row was not taken'), {
    code: answer?.outcome.kind === 'refused' ? 'shop-refused' : 'not-done',
    answer,
  });
}

export async function remove(t: ChannelUnderTest, externalId: string): Promise<void> {
  if (!t.client.batch) return t.client.remove(externalId);
  await runBatch(t, [{ row: 'r1', kind: 'remove', externalId }]);
}

/** Does something until it is done, as a worker does: after an error that may pass it is tried again. */
export async function insist<T>(work: () => Promise<T>, tries = 12): Promise<T> {
  for (let left = tries; ; left -= 1)
    try {
      return await work();
    } catch (error) {
      const passing =
        isTypicaError(error, 'shop-unreachable') ||
        isTypicaError(error, 'shop-busy') ||
        (error as { code?: string }).code === 'not-done';
      if (!passing || left === 0) throw error;
    }
}

/** Makes a listing once, whatever goes wrong: before each further try the shop is asked what became of the last. */
export async function makeOnce(t: ChannelUnderTest, form: ListingForm, pictureIds: PictureIds): Promise<RemoteRef> {
  const attempt = attemptOf(form);
  let made: RemoteRef | null = null;
  let tried = false;
  return insist(async () => {
    if (tried && !made) made = await settled(t, attempt);
    tried = true;
    if (made) return put(t, made.externalId, attempt, form, pictureIds, 'draft').then(() => made!);
    if (t.client.batch) return put(t, null, attempt, form, pictureIds, 'draft');
    made = await t.client.create(attempt, form);
    return put(t, made.externalId, attempt, form, pictureIds, 'draft').then(() => made!);
  });
}

async function settled(t: ChannelUnderTest, attempt: CreateAttempt): Promise<RemoteRef | null> {
  let found = await t.client.settle(attempt);
  if (found.kind === 'wait') {
    t.passTime();
    found = await t.client.settle(later(attempt));
  }
  return found.kind === 'made' ? found.listing : null;
}
