import crypto from 'node:crypto';
import type { ActivityAbout } from '@/core/activity';
import type { Database } from '../db/pool';

/** Something that was done or noticed. */
export interface Noted {
  readonly about: ActivityAbout;
  readonly what: string;
  readonly says: string;
  readonly productId?: string;
  readonly storeId?: string;
  readonly listing?: { readonly id: string; readonly externalId: string | null };
  /** Kinds of fields that went. */
  readonly fields?: readonly string[] | null;
  /** Lines of the same within an hour are one, which counts them. */
  readonly countedAs?: string;
}

/** Who did it, or asked for it; null for what happened without anybody asking. */
interface Doer {
  readonly workspaceId: string;
  readonly personName: string | null;
}

/** One line for an hour: the next hour has another. */
const onceOf = (doer: Doer, countedAs: string): string =>
  crypto
    .createHash('sha256')
    .update(JSON.stringify([doer.workspaceId, doer.personName, countedAs]))
    .digest('hex');

/** Writes down what was done or noticed, in the transaction that does it. */
export async function note(db: Database, doer: Doer, noted: Noted): Promise<void> {
  const { about, what, says, productId, storeId, listing, fields, countedAs } = noted;
  const columns = 'workspace_id, about, what, says, by_name, product_id, store_id, listing_id, external_id, fields';
  const values = [
    ...[doer.workspaceId, about, what, says.slice(0, 1000).toWellFormed(), doer.personName],
    ...[productId ?? null, storeId ?? null, listing?.id ?? null, listing?.externalId ?? null],
    fields ? JSON.stringify(fields) : null,
  ];
  const marks = values.map(() => '?').join(', ');
  if (countedAs === undefined) {
    await db.run(`INSERT INTO activity (${columns}) VALUES (${marks})`, values);
    return;
  }
  await db.run(
    `INSERT INTO activity (${columns}, once) VALUES (${marks}, SHA2(CONCAT(?, DATE_FORMAT(UTC_TIMESTAMP(), '%Y%m%d%H')), 256))
     ON DUPLICATE KEY UPDATE at = UTC_TIMESTAMP(3), times = times + 1, says = VALUE(says)`,
    [...values, onceOf(doer, countedAs)],
  );
}
