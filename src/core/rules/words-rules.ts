import type { ListingForm } from '../listing/form';
import { count } from '../words/count';
import { graphemeCount } from '../words/graphemes';
import type { ChannelDemands, RuleResult } from './demands';
import { loudWords, phraseIn } from './phrases';
import { resultOf, type Rule } from './rule';

/** What rules on words look at; further words count only where they are given. */
export type ListingWords = Pick<ListingForm, 'title' | 'description' | 'tags'> &
  Partial<Pick<ListingForm, 'highlights' | 'pageAddress' | 'seo'>>;

type WordsRule = Rule<ListingWords>;

const small = (text: string) => text.toLocaleLowerCase('en');

const TITLE_RULES: readonly WordsRule[] = [
  {
    id: 'title',
    part: 'words',
    check({ title }, { titleMin, titleMax }, { channelName }) {
      const length = graphemeCount(title);
      const mend =
        length > titleMax
          ? `Remove ${count(length - titleMax, 'character')}.`
          : length === 0
            ? 'Write a title.'
            : `Add ${count(titleMin - length, 'character')}.`;
      return {
        kept: length >= titleMin && length <= titleMax,
        says: `The title has ${count(length, 'character')}; ${channelName} wants ${titleMin} to ${titleMax}.`,
        mend,
      };
    },
  },
  {
    id: 'title-ending',
    part: 'words',
    check({ title }, { titleEndsWithShop }, { channelName, shopName }) {
      if (!titleEndsWithShop || !shopName) return null;
      const kept = title.trimEnd().endsWith(shopName);
      return {
        kept,
        says: kept
          ? `The title ends with “${shopName}”.`
          : `${channelName} wants titles to end with the shop’s name, “${shopName}”.`,
        mend: `Put “${shopName}” at the end.`,
      };
    },
  },
  {
    id: 'title-beginning',
    part: 'words',
    check({ title }, { titleBeginsWithLetter }, { channelName }) {
      if (!titleBeginsWithLetter || title === '') return null;
      const kept = /^\p{L}/u.test(title);
      return {
        kept,
        says: kept ? 'The title begins with a letter.' : `${channelName} wants titles to begin with a letter.`,
        mend: 'Begin the title with a word.',
      };
    },
  },
  {
    id: 'title-characters',
    part: 'words',
    check({ title }, { titleWithout = '', emojiBanned }, { channelName }) {
      if (titleWithout === '' && !emojiBanned) return null;
      const found = [...title].find(
        (one) => titleWithout.includes(one) || (emojiBanned && /\p{Extended_Pictographic}/u.test(one)),
      );
      return {
        kept: found === undefined,
        says:
          found === undefined
            ? 'The title has no character that the shop refuses.'
            : `The title has “${found}”, which ${channelName} does not take there.`,
        mend: 'Remove it.',
      };
    },
  },
  {
    id: 'shouting',
    part: 'words',
    check({ title }, { shouting }, { channelName, shopName = '' }) {
      if (!shouting) return null;
      // The shop's own name may be written as it is.
      const [loud] = loudWords(
        title.endsWith(shopName) ? title.slice(0, -shopName.length || undefined) : title,
        shouting,
      );
      return {
        kept: loud === undefined,
        says:
          loud === undefined
            ? 'Nothing in the title is written in capitals.'
            : `“${loud}” is written in capitals; ${channelName} does not take that.`,
        mend: 'Write it in small letters.',
      };
    },
  },
];

const PHRASE_RULES: readonly WordsRule[] = [
  {
    id: 'title-phrases',
    part: 'words',
    check({ title }, { titlePhrasesBanned = [] }, { channelName }) {
      if (titlePhrasesBanned.length === 0) return null;
      const found = phraseIn(title, titlePhrasesBanned);
      return {
        kept: found === undefined,
        says:
          found === undefined
            ? 'The title has no phrase that the shop refuses.'
            : `The title says “${found}”, which ${channelName} does not take there.`,
        mend: 'Say it another way.',
      };
    },
  },
  {
    id: 'phrases',
    part: 'words',
    check({ title, description, highlights = [] }, { phrasesBanned = [] }, { channelName }) {
      if (phrasesBanned.length === 0) return null;
      const found = phraseIn([title, description, ...highlights].join('\n'), phrasesBanned);
      return {
        kept: found === undefined,
        says:
          found === undefined
            ? 'No words have a phrase that the shop refuses.'
            : `The words say “${found}”, which ${channelName} does not take.`,
        mend: 'Say it another way.',
      };
    },
  },
];

const TEXT_RULES: readonly WordsRule[] = [
  {
    id: 'description',
    part: 'words',
    check({ description }, { descriptionMax }, { channelName }) {
      const length = graphemeCount(description);
      return {
        kept: length > 0 && length <= descriptionMax,
        says: `The description has ${count(length, 'character')}; ${channelName} wants 1 to ${descriptionMax}.`,
        mend: length === 0 ? 'Write a description.' : `Remove ${count(length - descriptionMax, 'character')}.`,
      };
    },
  },
  {
    id: 'highlights',
    part: 'words',
    check({ highlights = [] }, { highlightsMax, highlightMax = 0 }, { channelName }) {
      if (highlightsMax === undefined) return null;
      const long = highlights.find((one) => graphemeCount(one) > highlightMax);
      const kept = highlights.length <= highlightsMax && long === undefined;
      return {
        kept,
        says:
          long === undefined
            ? `${count(highlights.length, 'highlight')}; ${channelName} takes up to ${highlightsMax}.`
            : `A highlight has ${graphemeCount(long)} characters; ${channelName} takes up to ${highlightMax}.`,
        mend: long === undefined ? `Remove ${count(highlights.length - highlightsMax, 'highlight')}.` : 'Shorten it.',
      };
    },
  },
  {
    id: 'search-texts',
    part: 'words',
    check({ seo }, { seoTitleMax = 0, seoDescriptionMax = 0 }, { channelName }) {
      if (!seo) return null;
      const [title, description] = [graphemeCount(seo.title), graphemeCount(seo.description)];
      return {
        kept: title <= seoTitleMax && description <= seoDescriptionMax,
        says: `For search engines: a title of ${title} and a description of ${count(description, 'character')}; ${channelName} takes up to ${seoTitleMax} and ${seoDescriptionMax}.`,
        mend: 'Shorten what is too long.',
      };
    },
  },
  {
    id: 'page-address',
    part: 'words',
    check({ pageAddress }, { pageAddressMax = 0 }, { channelName }) {
      if (pageAddress === null || pageAddress === undefined) return null;
      const kept = /^[a-z0-9]+(-[a-z0-9]+)*$/.test(pageAddress) && pageAddress.length <= pageAddressMax;
      return {
        kept,
        says: `The page’s address ends with “${pageAddress}”; ${channelName} takes up to ${pageAddressMax} small letters, digits and hyphens.`,
        mend: 'Write another address.',
      };
    },
  },
];

const TAG_RULES: readonly WordsRule[] = [
  {
    id: 'tags',
    part: 'words',
    check: ({ tags }, { tagsMax }, { channelName }) =>
      tagsMax === 0
        ? null
        : {
            kept: tags.length <= tagsMax,
            says: `${count(tags.length, 'tag')}; ${channelName} takes up to ${tagsMax}.`,
            mend: `Remove ${count(tags.length - tagsMax, 'tag')}.`,
          },
  },
  {
    id: 'tag-length',
    part: 'words',
    check({ tags }, { tagsMax, tagMax }, { channelName }) {
      if (tagsMax === 0) return null;
      const long = tags.find((tag) => graphemeCount(tag) > tagMax);
      return {
        kept: long === undefined,
        says:
          long === undefined
            ? `No tag is longer than ${tagMax} characters.`
            : `The tag “${long}” has ${graphemeCount(long)} characters; ${channelName} takes up to ${tagMax}.`,
        mend: 'Shorten it.',
      };
    },
  },
  {
    id: 'tag-twice',
    part: 'words',
    check({ tags }, { tagsMax }) {
      if (tagsMax === 0) return null;
      const twice = tags.find((tag, i) => tags.findIndex((other) => small(other) === small(tag)) !== i);
      return {
        kept: twice === undefined,
        says: twice === undefined ? 'No tag is there twice.' : `The tag “${twice}” is there twice.`,
        mend: 'Remove one.',
      };
    },
  },
];

export const WORDS_RULES: readonly WordsRule[] = [...TITLE_RULES, ...TEXT_RULES, ...PHRASE_RULES, ...TAG_RULES];

const NOTHING_ELSE = { pictureLongSidePx: 0, partnerDeclared: false, losing: [], usedAreaCount: 0 };

/** The rules of a channel on words alone, as they are typed. `shopName` is what the shop calls the seller's shop. */
export const wordsResults = (
  words: ListingWords,
  demands: ChannelDemands,
  channelName: string,
  shopName?: string,
): RuleResult[] =>
  WORDS_RULES.flatMap((rule) => resultOf(rule, words, demands, { ...NOTHING_ELSE, channelName, shopName }));
