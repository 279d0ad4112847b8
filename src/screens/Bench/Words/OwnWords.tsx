'use client';

import { useState } from 'react';
import { wordsFor, type Words } from '@/core/document/document';
import { languageName } from '@/core/words/languages';
import { graphemeCount } from '@/core/words/graphemes';
import { Button } from '@/ui/Button';
import { newId } from '@/ui/ids';
import { TextArea, TextField } from '@/ui/Field';
import { useDesk } from '../desk';
import type { BenchStore } from '../load';
import {
  asLines,
  fieldSays,
  fromLines,
  MAX_TEXTS,
  OWN_FIELDS,
  ownWords,
  withoutOwn,
  withOwn,
  wordsRules,
  type OwnField,
} from './words';

const textOf = (field: OwnField, words: Words): string =>
  field === 'title' || field === 'description' ? words[field] : asLines(words[field]).replaceAll('\n', ', ');

/** What the store in view says in other words than the product, each to be changed or given back; and which stores do. */
export function OwnWords() {
  const { doc, store, data, edit, setStore } = useDesk('doc', 'store', 'data', 'edit', 'setStore');
  const others = data.stores.filter(({ id }) => id !== store?.id && ownWords(doc, id).length > 0);
  if (!store) return null;
  const own = ownWords(doc, store.id);
  const { tagsMax, highlightsMax = 0 } = store.demands;
  const takes: Record<OwnField, boolean> = {
    ...{ title: true, description: true, tags: tagsMax > 0, highlights: highlightsMax > 0 },
  };
  const free = (Object.keys(takes) as OwnField[]).filter((field) => takes[field] && !own.includes(field));
  return (
    <section aria-label={`Own words of ${store.name}`} className="border-t border-hairline pt-4">
      <h3 className="mb-2 text-base font-semibold">
        Only for {store.name}
        {store.language && (
          <span className="font-normal text-muted">, its words are in {languageName(store.language)}</span>
        )}
      </h3>
      <div className="grid gap-4">
        {own.map((field) => (
          <Own key={field} field={field} store={store} />
        ))}
      </div>
      <div className="flex flex-wrap gap-4">
        {free.map((field) => (
          <Button
            key={field}
            kind="quiet"
            onClick={() =>
              edit(`Own ${field} for ${store.name}`, (now) =>
                withOwn(now, store.id, { [field]: wordsFor(now, store.id)[field] ?? {} }),
              )
            }
          >
            Write its own {field}
          </Button>
        ))}
      </div>
      {others.length > 0 && (
        <p className="mt-3 text-small text-muted">
          Others with own words:{' '}
          {others.map(({ id, name }, i) => (
            <span key={id}>
              {i > 0 && ', '}
              <Button kind="quiet" onClick={() => setStore(id)}>
                {name}
              </Button>{' '}
              ({ownWords(doc, id).join(', ')})
            </span>
          ))}
        </p>
      )}
    </section>
  );
}

/** Tags or highlights of a store's own, one a line; they are taken when the field is left. */
function OwnLines({ field, store, error }: { field: 'tags' | 'highlights'; store: BenchStore; error: string | null }) {
  const { doc, edit } = useDesk('doc', 'edit');
  const now = wordsFor(doc, store.id)[field];
  const [typed, setTyped] = useState<string | null>(null);
  const take = () => {
    if (typed !== null)
      edit(OWN_FIELDS[field], (d) =>
        withOwn(d, store.id, { [field]: fromLines(wordsFor(d, store.id)[field], typed, newId, MAX_TEXTS[field]) }),
      );
    setTyped(null);
  };
  return (
    <TextArea
      rows={4}
      label={`${OWN_FIELDS[field]} for ${store.name}`}
      hint={`one a line, ${Object.keys(now ?? {}).length}`}
      error={error}
      lacking={null}
      value={typed ?? asLines(now)}
      onChange={setTyped}
      onBlur={take}
    />
  );
}

function Own({ field, store }: { field: OwnField; store: BenchStore }) {
  const { doc, data, edit } = useDesk('doc', 'data', 'edit');
  const words = wordsFor(doc, store.id);
  const value = textOf(field, words);
  const most = {
    title: store.demands.titleMax,
    description: store.demands.descriptionMax,
    tags: null,
    highlights: null,
  }[field];
  const length = graphemeCount(value);
  const look = {
    label: `${OWN_FIELDS[field]} for ${store.name}`,
    hint: most === null ? undefined : `${length} of ${most}`,
    ...fieldSays(wordsRules(doc, store, data.blank), field === 'title' ? ['title', 'title-ending'] : [field], false),
    value,
    onChange: (text: string) =>
      edit(OWN_FIELDS[field], (now) => withOwn(now, store.id, { [field]: text }), `own-${field}`),
  };
  return (
    <div lang={store.language}>
      {field === 'title' && <TextField {...look} />}
      {field === 'description' && <TextArea rows={6} {...look} />}
      {(field === 'tags' || field === 'highlights') && <OwnLines field={field} store={store} error={look.error} />}
      <p className="mt-1 text-tiny text-muted">
        The product says: {textOf(field, doc.words.base).slice(0, 160) || 'nothing'}{' '}
        <Button
          kind="quiet"
          className="text-tiny"
          onClick={() => edit(`Follow the product’s ${field}`, (now) => withoutOwn(now, store.id, field))}
        >
          Follow the product again
        </Button>
      </p>
    </div>
  );
}
