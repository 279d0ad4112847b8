import type { ListingForm } from '../listing/form';
import { count } from '../words/count';
import { graphemeCount } from '../words/graphemes';
import type { ChannelDemands, RuleResult } from './demands';
import { resultOf, type Rule } from './rule';

/** What rules on words look at. */
export type ListingWords = Pick<ListingForm, 'title' | 'description' | 'tags'>;

const small = (text: string) => text.toLocaleLowerCase('en');

export const WORDS_RULES: readonly Rule<ListingWords>[] = [
  {
    id: 'title',
    part: 'words',
    check({ title }, { titleMin, titleMax }, { channelName }) {
      const length = graphemeCount(title);
      return {
        kept: length >= titleMin && length <= titleMax,
        says: `The title has ${count(length, 'character')}; ${channelName} wants ${titleMin} to ${titleMax}.`,
        mend: length > titleMax ? `Remove ${count(length - titleMax, 'character')}.` : 'Write a title.',
      };
    },
  },
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
    id: 'tags',
    part: 'words',
    check: ({ tags }, { tagsMax }, { channelName }) => ({
      kept: tags.length <= tagsMax,
      says: `${count(tags.length, 'tag')}; ${channelName} takes up to ${tagsMax}.`,
      mend: `Remove ${count(tags.length - tagsMax, 'tag')}.`,
    }),
  },
  {
    id: 'tag-length',
    part: 'words',
    check({ tags }, { tagMax }, { channelName }) {
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
    check({ tags }) {
      const twice = tags.find((tag, i) => tags.findIndex((other) => small(other) === small(tag)) !== i);
      return {
        kept: twice === undefined,
        says: twice === undefined ? 'No tag is there twice.' : `The tag “${twice}” is there twice.`,
        mend: 'Remove one.',
      };
    },
  },
];

const NOTHING_ELSE = { pictureLongSidePx: 0, partnerDeclared: false, losing: [], usedAreaCount: 0 };

/** The rules of a channel on words alone, as they are typed. */
export const wordsResults = (words: ListingWords, demands: ChannelDemands, channelName: string): RuleResult[] =>
  WORDS_RULES.flatMap((rule) => resultOf(rule, words, demands, { ...NOTHING_ELSE, channelName }));
