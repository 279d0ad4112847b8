'use client';

import { customAlphabet } from 'nanoid';
import { useState } from 'react';
import type { ProductDocument, Words } from '@/core/document/document';
import { inOrder, orderAtEnd } from '@/core/order/order';
import { graphemeCount } from '@/core/rules/evaluate';
import { TextArea, TextField } from '@/ui/Field';
import { useDesk } from '../desk';

const newId = customAlphabet('23456789abcdefghjkmnpqrstuvwxyz', 8);
const setWords = (doc: ProductDocument, part: Partial<Words>): ProductDocument => ({
  ...doc,
  words: { ...doc.words, base: { ...doc.words.base, ...part } },
});

/** Title, description and tags, with the limits of the store in view. */
export function WordsPart() {
  const desk = useDesk();
  const { doc, store, listings } = desk;
  const { title, description, tags } = doc.words.base;
  const [typed, setTyped] = useState('');
  const limits = store?.demands;
  const broken = (id: string) => {
    const rule = listings.find((listing) => listing.storeId === store?.id)?.rules.find((r) => r.id === id && !r.kept);
    return rule ? `${rule.says} ${rule.mend ?? ''}` : null;
  };
  const hint = (length: number, most: number | undefined) =>
    most ? `${length} of ${most}, ${store!.channelName}` : String(length);
  const addTags = (text: string) => {
    const wanted = text
      .split(',')
      .map((tag) => tag.trim())
      .filter(Boolean);
    if (wanted.length === 0) return;
    desk.edit('Add tag', (d) => {
      let next = { ...d.words.base.tags };
      for (const tag of wanted)
        if (!Object.values(next).some((t) => t.text.toLocaleLowerCase('en') === tag.toLocaleLowerCase('en')))
          next = { ...next, [newId()]: { text: tag, order: orderAtEnd(next) } };
      return setWords(d, { tags: next });
    });
    setTyped('');
  };
  const list = inOrder(tags);
  return (
    <div className="px-7 py-5 max-w-3xl grid gap-4">
      <h2 className="font-display text-[20px] font-semibold">Words</h2>
      <TextField
        label="Title"
        hint={hint(graphemeCount(title), limits?.titleMax)}
        error={broken('title')}
        value={title}
        onChange={(value) => desk.edit('Title', (d) => setWords(d, { title: value.slice(0, 500) }), 'title')}
      />
      <TextArea
        label="Description"
        rows={9}
        hint={hint(graphemeCount(description), limits?.descriptionMax)}
        error={broken('description')}
        value={description}
        onChange={(value) =>
          desk.edit('Description', (d) => setWords(d, { description: value.slice(0, 20_000) }), 'description')
        }
      />
      <div>
        <TextField
          label="Tags"
          hint={hint(list.length, limits?.tagsMax)}
          error={broken('tags') ?? broken('tag-length')}
          value={typed}
          onChange={(value) => (value.endsWith(',') ? addTags(value) : setTyped(value))}
        />
        <div className="flex items-center gap-3 mt-1">
          <button
            type="button"
            className="text-small text-primary underline disabled:text-muted disabled:no-underline"
            disabled={typed.trim() === ''}
            onClick={() => addTags(typed)}
          >
            Add tag
          </button>
          <span className="text-tiny text-muted">or type a comma after it</span>
        </div>
        <ul className="flex flex-wrap gap-2 mt-2" aria-label="Tags of this product">
          {list.map(([id, tag]) => (
            <li key={id} className="rounded-paper border border-hairline bg-sheet pl-2 pr-1 py-0.5 text-small">
              {tag.text}
              <button
                type="button"
                aria-label={`Remove ${tag.text}`}
                className="ml-1 size-6 text-muted hover:text-stop"
                onClick={() =>
                  desk.edit('Remove tag', (d) => {
                    const { [id]: _gone, ...rest } = d.words.base.tags;
                    return setWords(d, { tags: rest });
                  })
                }
              >
                ×
              </button>
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}
