'use client';

import { useState } from 'react';
import type { ProductDocument, Words } from '@/core/document/document';
import { inOrder } from '@/core/order-key';
import { graphemeCount } from '@/core/words/graphemes';
import { newId } from '@/ui/ids';
import { Button } from '@/ui/Button';
import { TextArea, TextField } from '@/ui/Field';
import { useDesk } from '../desk';
import { OwnWords } from './OwnWords';
import { withTags } from '@/core/words/tags';
import { cutTo, fieldSays, MAX_DESCRIPTION, MAX_TITLE, wordsRules } from './words';

const setWords = (doc: ProductDocument, part: Partial<Words>): ProductDocument => ({
  ...doc,
  words: { ...doc.words, base: { ...doc.words.base, ...part } },
});

type Field = 'title' | 'description';
const NAMES: Record<Field, string> = { title: 'Title', description: 'Description' };
const MAX: Record<Field, number> = { title: MAX_TITLE, description: MAX_DESCRIPTION };

/** Title, description and tags, with the limits of the store in view. */
export function WordsPart() {
  const desk = useDesk('doc', 'data', 'store', 'edit');
  const { doc, data, store } = desk;
  const { title, description } = doc.words.base;
  const [touched, setTouched] = useState<ReadonlySet<Field>>(new Set());
  const [cut, setCut] = useState<{ of: Field; says: string } | null>(null);
  const limits = store?.demands;
  const rules = wordsRules(doc, store, data.blank);
  const hint = (length: number, most: number | undefined) =>
    most ? `${length} of ${most}, ${store!.shortName}` : String(length);
  const field = (of: Field, value: string, most: number | undefined) => ({
    label: NAMES[of],
    hint: hint(graphemeCount(value), most),
    ...fieldSays(rules, [of], value === '' && !touched.has(of)),
    ...(cut?.of === of ? { lacking: cut.says } : {}),
    value,
    onBlur: () => setTouched(new Set([...touched, of])),
    onChange: (typed: string) => {
      const { text, says } = cutTo(typed, MAX[of]);
      setCut(says === null ? null : { of, says });
      desk.edit(NAMES[of], (d) => setWords(d, { [of]: text }), of);
    },
  });
  return (
    <div className="grid max-w-3xl gap-4 px-7 py-5 max-[900px]:px-[18px]">
      <h2 className="font-display text-[20px] font-semibold">Words</h2>
      <TextField {...field('title', title, limits?.titleMax)} />
      <TextArea rows={9} {...field('description', description, limits?.descriptionMax)} />
      <Tags hint={hint(Object.keys(doc.words.base.tags).length, limits?.tagsMax)} />
      <OwnWords />
    </div>
  );
}

/** The tags: Enter, a comma or leaving the field adds what was typed; one that is too long is marked itself. */
function Tags({ hint }: { hint: string }) {
  const desk = useDesk('doc', 'data', 'store', 'edit');
  const { doc, data, store } = desk;
  const [typed, setTyped] = useState('');
  const rules = wordsRules(doc, store, data.blank);
  const most = store?.demands.tagMax ?? Infinity;
  const add = (text: string) => {
    if (text.trim() !== '')
      desk.edit('Add tag', (d) => setWords(d, { tags: withTags(d.words.base.tags, text, newId) }));
    setTyped('');
  };
  const remove = (id: string) =>
    desk.edit('Remove tag', (d) => {
      const { [id]: _gone, ...rest } = d.words.base.tags;
      return setWords(d, { tags: rest });
    });
  return (
    <div>
      <TextField
        label="Tags"
        hint={hint}
        {...fieldSays(rules, ['tags', 'tag-length', 'tag-twice'], false)}
        value={typed}
        onChange={(value) => (value.includes(',') ? add(value) : setTyped(value))}
        onBlur={() => add(typed)}
        onEnter={() => add(typed)}
      />
      <div className="mt-1 flex items-center gap-3">
        <Button kind="quiet" disabled={typed.trim() === ''} onClick={() => add(typed)}>
          Add tag
        </Button>
        <span className="text-tiny text-muted">or press Enter, or type a comma after it</span>
      </div>
      <ul className="mt-2 flex flex-wrap gap-2" aria-label="Tags of this product">
        {inOrder(doc.words.base.tags).map(([id, tag]) => {
          const length = graphemeCount(tag.text);
          const long = length > most;
          return (
            <li
              key={id}
              className={`max-w-full break-words rounded-paper border bg-sheet py-0.5 pl-2 pr-1 text-small ${long ? 'border-stop text-stop' : 'border-hairline'}`}
            >
              {tag.text}
              {long && (
                <span className="ml-1 text-tiny">
                  {length} of {most}
                </span>
              )}
              <button
                type="button"
                aria-label={`Remove ${tag.text}`}
                className="ml-1 size-6 text-muted hover:text-stop"
                onClick={() => remove(id)}
              >
                ×
              </button>
            </li>
          );
        })}
      </ul>
    </div>
  );
}
