import type { ChannelDemands } from '@/core/rules/demands';

interface Demanding {
  readonly demands: ChannelDemands;
}

/** What a channel asks of every listing, in lines that a person reads. */
export function demandLines({ demands: d }: Demanding): string[] {
  const maybe = (holds: unknown, line: string): string[] => (holds ? [line] : []);
  return [
    `Title of ${d.titleMin} to ${d.titleMax} characters`,
    ...maybe(d.titleEndsWithShop, 'Titles end with the name of your shop'),
    ...maybe(d.titleBeginsWithLetter, 'Titles begin with a letter'),
    ...maybe(d.shouting, 'No titles in capitals'),
    d.tagsMax > 0 ? `Up to ${d.tagsMax} tags of ${d.tagMax} characters` : 'No tags',
    ...maybe(d.highlightsMax, `Up to ${d.highlightsMax} highlights of ${d.highlightMax} characters`),
    `Up to ${d.optionsMax} options and ${d.variantsMax} variants`,
    d.picturesMin > 0
      ? `${d.picturesMin} to ${d.picturesMax} pictures, long side ${d.pictureLongSideMinPx} px or more`
      : `Up to ${d.picturesMax} pictures`,
    ...maybe(d.pictureFormat.squareOn, 'Square pictures: they are filled up with white, or cropped'),
    ...maybe(d.firstOnWhite, 'The first picture on pure white'),
    ...maybe(d.category, 'A category for each good, and what it asks'),
    ...maybe(d.codes, 'Product codes, or an exemption'),
    ...maybe(d.warehouse, 'A warehouse'),
    ...maybe(d.processingDays, `Sent within ${d.processingDays?.min} to ${d.processingDays?.max} days`),
    ...maybe(d.spreadMax, `The dearest variant at most ${d.spreadMax} times the cheapest`),
    ...maybe(d.partnerDeclared, 'The print partner must be declared'),
  ];
}
