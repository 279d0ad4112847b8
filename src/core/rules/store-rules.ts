import { countryName } from '../country-names';
import { ownEntry } from '../own-entry';
import { count } from '../words/count';
import type { AskingPlace, ListingRule } from './rule';

/** Answers that a place wants and has not got, or got wrong: by their labels. */
function missingAnswers({ attributes }: AskingPlace, given: { readonly [key: string]: string }): string[] {
  return attributes.flatMap(({ key, label, choices, needed }) => {
    const answer = ownEntry(given, key)?.trim() ?? '';
    if (answer === '') return needed ? [label] : [];
    return choices && !choices.includes(answer) ? [label] : [];
  });
}

const PLACE_RULES: readonly ListingRule[] = [
  {
    id: 'category',
    part: 'stores',
    check({ category }, { category: demanded }, { channelName, place, goodName }) {
      if (!demanded) return null;
      const kept = category !== null && place != null;
      return {
        kept,
        says: kept
          ? `It stands under ${place.path.join(' › ')}.`
          : `${channelName} wants a category; none is set for ${goodName ?? 'this good'}.`,
        mend: 'Choose one in the store’s settings.',
      };
    },
  },
  {
    id: 'attributes',
    part: 'stores',
    check({ attributes }, { category: demanded }, { channelName, place }) {
      if (!demanded || !place) return null;
      const missing = missingAnswers(place, attributes);
      return {
        kept: missing.length === 0,
        says:
          missing.length === 0
            ? `All ${count(place.attributes.filter(({ needed }) => needed).length, 'attribute')} of the category are there.`
            : `${channelName} asks for ${missing.join(', ')} under ${place.path.at(-1)}.`,
        mend: 'Answer it in the store’s settings.',
      };
    },
  },
];

const SENDING_RULES: readonly ListingRule[] = [
  {
    id: 'warehouse',
    part: 'stores',
    check({ terms }, { warehouse }, { channelName }) {
      if (!warehouse) return null;
      const kept = ownEntry(terms, 'warehouse') !== undefined;
      return {
        kept,
        says: kept ? 'The warehouse is chosen.' : `${channelName} wants to know the warehouse.`,
        mend: 'Choose it in the store’s settings.',
      };
    },
  },
  {
    id: 'processing-days',
    part: 'stores',
    check({ terms }, { processingDays }, { channelName }) {
      if (!processingDays) return null;
      const { min, max } = processingDays;
      const days = Number(ownEntry(terms, 'processingDays') ?? Number.NaN);
      return {
        kept: days >= min && days <= max,
        says: `It is sent within ${count(days, 'day')}; ${channelName} takes ${min} to ${max}.`,
        mend: 'Set the processing time in the store’s settings, or choose a quicker partner.',
      };
    },
  },
  {
    id: 'shipping',
    part: 'stores',
    check({ shipping }, _demands, { channelName, soldTo }) {
      if (!soldTo) return null;
      const answered = new Set(shipping.flatMap(({ countries }) => countries));
      const open = soldTo.filter((country) => !answered.has(country));
      return {
        kept: soldTo.length > 0 && open.length === 0,
        says:
          soldTo.length === 0
            ? `Its partner sends to no country in which ${channelName} sells.`
            : open.length === 0
              ? `Shipping is answered for ${soldTo.length === 1 ? countryName(soldTo[0]!) : `all ${soldTo.length} countries`}.`
              : `It is sold to ${countryName(open[0]!)}, and nothing says what shipping costs there.`,
        mend: 'Choose a partner that sends there, or do not sell there.',
      };
    },
  },
  {
    id: 'weight',
    part: 'blank',
    check({ variants }, { weight }, { channelName }) {
      if (!weight) return null;
      const light = Object.values(variants).find(({ grams }) => !grams);
      return {
        kept: light === undefined,
        says: light ? `${light.sku} has no weight; ${channelName} wants one.` : 'Each variant has its weight.',
        mend: 'Ask the print partner for it.',
      };
    },
  },
  {
    id: 'origin',
    part: 'blank',
    check({ partner }, { origin }, { channelName }) {
      if (!origin) return null;
      const kept = /^[A-Z]{2}$/.test(partner.country);
      return {
        kept,
        says: kept ? `Made in ${countryName(partner.country)}.` : `${channelName} wants the country of making.`,
        mend: 'Ask the print partner for it.',
      };
    },
  },
];

const LEAVE_WORDS = {
  none: 'no exemption was asked for',
  asked: 'the exemption was asked for and is not decided yet',
  granted: 'the exemption is granted',
  refused: 'the exemption was refused',
} as const;

const LEAVE_RULES: readonly ListingRule[] = [
  {
    id: 'codes',
    part: 'stores',
    check({ variants }, { codes }, { channelName, exemption = 'none' }) {
      if (!codes) return null;
      const all = Object.values(variants);
      const bare = all.filter(({ gtin }) => gtin === null).length;
      const kept = bare === 0 || exemption === 'granted';
      return {
        kept,
        says:
          bare === 0
            ? 'Each variant has a product code.'
            : `${count(bare, 'variant')} ${bare === 1 ? 'has' : 'have'} no product code; ${channelName} wants one or an exemption: ${LEAVE_WORDS[exemption]}.`,
        mend:
          exemption === 'asked'
            ? 'Wait for the answer, or give product codes under SKUs and GTINs.'
            : 'Ask for an exemption in the store’s settings, or give product codes under SKUs and GTINs.',
      };
    },
  },
  {
    id: 'partner',
    part: 'stores',
    check({ partner }, { partnerDeclared }, { channelName, partnerDeclared: declared }) {
      if (!partnerDeclared) return null;
      return {
        kept: declared,
        says: declared
          ? `${partner.name} is declared as print partner.`
          : `${channelName} wants the print partner ${partner.name} declared.`,
        mend: `Declare ${partner.name} on the store’s page.`,
      };
    },
  },
];

/** What a shop asks beside the listing itself: answered once in the store's settings. */
export const STORE_RULES: readonly ListingRule[] = [...PLACE_RULES, ...LEAVE_RULES, ...SENDING_RULES];
