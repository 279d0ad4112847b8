import type { ChannelAbout } from '@/ports/channel';

/** What Pennyquay is, takes and demands, as its terms for sellers say. */
export const about: ChannelAbout = {
  code: 'pennyquay',
  name: 'Pennyquay',
  kind: 'craft marketplace',
  currency: 'USD',
  fees: [
    {
      id: 'commission',
      label: 'Commission, 5 % of item and shipping',
      of: 'item+shipping',
      ratePpm: 50_000,
      per: 'order',
      fixedMinor: 0,
    },
    {
      id: 'payment',
      label: 'Payment, 2.5 % + 0.20',
      of: 'item+shipping',
      ratePpm: 25_000,
      per: 'order',
      fixedMinor: 20,
    },
    { id: 'listing', label: 'Live listing, 0.15 for 90 days', of: 'item', ratePpm: 0, per: 'listing', fixedMinor: 15 },
  ],
  demands: {
    titleMin: 1,
    titleMax: 110,
    descriptionMax: 8000,
    tagsMax: 10,
    tagMax: 28,
    optionsMax: 2,
    variantsMax: 75,
    picturesMin: 1,
    picturesMax: 12,
    pictureLongSideMinPx: 1400,
    pictureFormat: { format: 'jpeg', longSideMaxPx: 2400, squareOn: null, pureWhite: false, maxBytes: 8_000_000 },
    firstOnWhite: false,
    priceMinMinor: 20,
    partnerDeclared: true,
  },
  rate: { perSecond: 8 },
  sellsTo: ['US', 'CA', 'GB', 'DE', 'FR'],
  comparesAt: true,
  takesCodes: true,
  onceOnly: 'idempotency-key',
};
