import { formHash } from '@/core/listing/form-text';
import type { ListingForm } from '@/core/listing/form';
import type { ChannelClient, PictureIds, RemoteListing } from '@/ports/channel';
import type { ListingRow } from './listings';

const idsOf = (json: string | null): PictureIds => JSON.parse(json ?? '{}') as PictureIds;

/**
 * A listing as it is in its shop. A send that was cut off has either arrived whole or not at all: it is read with the pictures that were agreed on, and
 * where that is something else, with those that were sent last.
 */
export async function readThere(
  client: ChannelClient,
  row: Pick<ListingRow, 'externalId' | 'agreedHash' | 'sentHash' | 'pictureIds' | 'sentPictureIds'>,
  known: ListingForm,
): Promise<RemoteListing | null> {
  const there = await client.read(row.externalId!, known, idsOf(row.pictureIds));
  if (!there || row.sentPictureIds === null || formHash(there.form) === row.agreedHash) return there;
  const asSent = await client.read(row.externalId!, known, idsOf(row.sentPictureIds));
  return asSent && formHash(asSent.form) === row.sentHash ? asSent : there;
}
