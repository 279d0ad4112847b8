import { cutAtWord } from '../words/cut';
import { graphemeCount } from '../words/graphemes';
import type { ChannelDemands } from './demands';
import { loudWords } from './phrases';

const spaced = (text: string) => text.replace(/\s+/gu, ' ').trim();

/** A word with a capital and small letters. */
const quiet = (word: string) => word.slice(0, 1) + word.slice(1).toLocaleLowerCase('en');

/**
 * A title as a channel takes it: without what it refuses, at most so long, cut after a word, with the ending that it wants. What cannot be made so
 * is left as it is. An `addition` stands whole before that ending, where there is room for it.
 */
export function fittedTitle(title: string, demands: ChannelDemands, shopName = '', addition = ''): string {
  const {
    titleWithout = '',
    emojiBanned,
    shouting,
    titleBeginsWithLetter,
    titleEndsWithShop,
    titleMax,
    titleMin,
  } = demands;
  const taken = (text: string) =>
    Array.from(text, (one) =>
      titleWithout.includes(one) || (emojiBanned && /\p{Extended_Pictographic}/u.test(one)) ? ' ' : one,
    ).join('');
  const plain = spaced(taken(title));
  const named = shopName !== '' && plain.endsWith(shopName);
  const own = named
    ? plain
        .slice(0, -shopName.length)
        .trimEnd()
        .replace(/(?: by|,|–|-)$/u, '')
        .trimEnd()
    : plain;
  const calm = shouting
    ? loudWords(own, shouting).reduce((text, word) => text.replace(word, word.split(' ').map(quiet).join(' ')), own)
    : own;
  const begun = titleBeginsWithLetter ? calm.replace(/^[^\p{L}]+/u, '') : calm;
  const wanted = named || (shopName !== '' && (titleEndsWithShop === true || graphemeCount(begun) < titleMin));
  const closing = wanted ? ` by ${shopName}` : '';
  const ending = [taken(addition) + closing, closing].find((one) => graphemeCount(one) < titleMax) ?? '';
  return begun === '' ? begun : cutAtWord(begun, titleMax - graphemeCount(ending)) + ending;
}
