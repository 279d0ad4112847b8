import type { Words } from '../document/document';
import { orderAtEnd } from '../order-key';

/** `rivers, light on dark` as tags of their own, added behind those that are there; one that is there already is not added again. */
export function withTags(tags: Words['tags'], typed: string, newId: () => string): Words['tags'] {
  const small = (text: string) => text.toLocaleLowerCase('en');
  let next = tags;
  for (const text of typed
    .split(',')
    .map((tag) => tag.trim())
    .filter(Boolean))
    if (!Object.values(next).some((tag) => small(tag.text) === small(text)))
      next = { ...next, [newId()]: { text, order: orderAtEnd(next) } };
  return next;
}
