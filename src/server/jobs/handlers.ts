import { ingestArtwork } from '../artwork/ingest.job';
import { sendListing } from '../listings/send.job';
import { sendFiles } from '../listings/send-file.job';
import { renewListing } from '../listings/renew.job';
import { showListing } from '../listings/show.job';
import { layOutPause } from '../stores/pause';
import { removeListing } from '../listings/remove.job';
import { readListings } from '../listings/read.job';
import { askChanges } from '../stores/ask-changes.job';
import { checkListing } from '../listings/check.job';
import { settleListings } from '../listings/settle-many.job';
import { layPriceList, readPriceList } from '../price-lists/read.job';
import { replaceArtwork } from '../artwork/replace.job';
import { makePictures } from '../pictures/pictures.job';
import { makePrintFiles } from '../prints/print-files.job';
import { takeBackPrices } from '../sales/take-back.job';
import { turnSale } from '../sales/turn.job';
import { layOutSend } from '../sends/begin.job';
import { lookAtSend } from '../sends/look';
import { changeMany } from '../range/many/change.job';
import { undoJob } from '../products/undo-job';
import type { JobHandler } from './worker';

/** Every kind of job and the file that does it. */
export const handlers: { readonly [kind: string]: JobHandler } = {
  'ingest-artwork': ingestArtwork,
  'make-print-files': makePrintFiles,
  'make-pictures': makePictures,
  'send-listing': sendListing,
  'remove-listing': removeListing,
  'show-listing': showListing,
  'renew-listing': renewListing,
  'pause-store': layOutPause,
  'send-file': sendFiles,
  'look-at-send': lookAtSend,
  'begin-send': layOutSend,
  'check-listing': checkListing,
  'read-listings': readListings,
  'ask-changes': askChanges,
  'settle-listings': settleListings,
  'read-price-list': readPriceList,
  'lay-price-list': layPriceList,
  'replace-artwork': replaceArtwork,
  'undo-job': undoJob,
  'change-range': changeMany,
  'change-prices': changeMany,
  'turn-sale': turnSale,
  'take-back-prices': takeBackPrices,
};
