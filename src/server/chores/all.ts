import { dropRefused } from '../artwork/artwork';
import { dropDeletedArtwork } from '../artwork/library';
import { askToLookAgain } from '../artwork/ingest.job';
import { cleanBlobs } from '../blobs/blobs';
import { giveUpLost } from '../jobs/claim';
import { dropIdleTurns } from '../jobs/turns';
import { dropOldTries } from '../people/sign-in-limits';
import { dropUnusedPlanes } from '../pictures/half-planes';
import { makeBlankThumbnails } from '../pictures/blank-thumbnails';
import { renewEnding } from '../listings/renew.job';
import { lookInShops } from '../listings/readings';
import { judgeNewDay } from '../outcomes/judge';
import { dropOldRenderings } from '../pictures/renderings';
import { thinRevisions } from '../products/revisions';
import { dropDeletedProducts } from '../products/shelving';
import { catchUpVariants } from '../products/variant-rows';
import { bringRates } from '../rates/feed';
import { turnSales } from '../sales/sales';
import { dropLeftFiles } from '../studio/old-files';
import type { Chore } from './chores';
import { dropOldRows } from './spans';

/** Every chore, how often it is done, and the file that does it. */
export const chores: readonly Chore[] = [
  { name: 'bring-rates', everySeconds: 3600, run: bringRates },
  { name: 'turn-sales', everySeconds: 10, run: turnSales },
  { name: 'look-in-shops', everySeconds: 30, run: lookInShops },
  { name: 'renew-ending', everySeconds: 300, run: renewEnding },
  { name: 'judge-new-day', everySeconds: 300, run: judgeNewDay },
  { name: 'give-up-lost', everySeconds: 30, run: giveUpLost },
  { name: 'catch-up-variants', everySeconds: 30, run: catchUpVariants },
  { name: 'sign-in-tries', everySeconds: 60, run: dropOldTries },
  { name: 'idle-turns', everySeconds: 60, run: dropIdleTurns },
  { name: 'old-rows', everySeconds: 60, run: dropOldRows },
  { name: 'blank-thumbnails', everySeconds: 10, run: (ctx) => makeBlankThumbnails(ctx) },
  { name: 'old-renderings', everySeconds: 60, run: dropOldRenderings },
  { name: 'refused-artwork', everySeconds: 60, run: dropRefused },
  { name: 'look-again', everySeconds: 60, run: askToLookAgain },
  { name: 'blobs', everySeconds: 60, run: cleanBlobs },
  { name: 'deleted-artwork', everySeconds: 300, run: dropDeletedArtwork },
  { name: 'deleted-products', everySeconds: 300, run: dropDeletedProducts },
  { name: 'thin-revisions', everySeconds: 60, run: thinRevisions },
  { name: 'unused-planes', everySeconds: 300, run: ({ config }) => dropUnusedPlanes(config.home) },
  { name: 'left-files', everySeconds: 300, run: ({ config }) => dropLeftFiles(config.home) },
];
