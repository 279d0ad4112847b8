'use client';

import type { GoodAnswers } from '@/core/listing/answers';
import { ownEntry } from '@/core/own-entry';
import { TableHead } from '@/ui/TableHead';
import { EntryField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { answering, type AskedProps } from './Asked';
import type { StoreData } from './load';

type Category = NonNullable<StoreData['shop']['categories']>[number];

const NONE: GoodAnswers = { category: null, attributes: {} };

/** Where each good stands in the shop's own tree, and what that place asks. */
export function Categories(props: AskedProps) {
  const { store } = props;
  const { goods } = store.asks;
  const answer = answering(props);
  if (goods.length === 0) return null;
  const places = store.shop.categories ?? [];
  const put = (code: string, next: GoodAnswers) => answer({ byGood: { [code]: next } });
  return (
    <section className="mt-8 text-small">
      <h2 className="font-display text-[17px] mb-1.5">Categories</h2>
      <div data-wide className="relative overflow-x-auto">
        <table className="w-full">
          <TableHead
            className="border-y border-hairline"
            columns={[['Good', 'py-1.5 w-40'], ['Category in the shop', 'w-72'], 'What it asks']}
          />
          <tbody>
            {goods.map(({ code, name }) => (
              <GoodRow
                key={code}
                name={name}
                places={places}
                own={ownEntry(store.answers.byGood ?? {}, code) ?? NONE}
                put={(next) => put(code, next)}
              />
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function GoodRow({
  name,
  places,
  own,
  put,
}: {
  name: string;
  places: readonly Category[];
  own: GoodAnswers;
  put: (next: GoodAnswers) => void;
}) {
  const place = places.find(({ id }) => id === own.category);
  return (
    <tr className="border-b border-hairline align-baseline">
      <td className="py-1.5 pr-3">{name}</td>
      <td className="pr-3">
        <Select
          label={`Category of ${name}`}
          quiet
          value={own.category ?? ''}
          choices={[
            { value: '', name: 'not chosen yet' },
            ...places.map(({ id, path }) => ({ value: id, name: path.join(' › ') })),
          ]}
          onChange={(category) => put({ category: category || null, attributes: {} })}
        />
      </td>
      <td>
        <div className="flex flex-wrap gap-x-4 gap-y-1">
          {place?.attributes.map((attribute) => (
            <Attribute
              key={attribute.key}
              good={name}
              attribute={attribute}
              value={ownEntry(own.attributes, attribute.key) ?? ''}
              put={(value) => put({ ...own, attributes: withAnswer(own.attributes, attribute.key, value) })}
            />
          ))}
        </div>
      </td>
    </tr>
  );
}

const withAnswer = (attributes: GoodAnswers['attributes'], key: string, value: string): GoodAnswers['attributes'] =>
  Object.fromEntries([
    ...Object.entries(attributes).filter(([k]) => k !== key),
    ...(value === '' ? [] : [[key, value]]),
  ]);

function Attribute({
  good,
  attribute,
  value,
  put,
}: {
  good: string;
  attribute: Category['attributes'][number];
  value: string;
  put: (value: string) => void;
}) {
  const { label, choices, needed } = attribute;
  const missing = needed && value === '';
  return (
    <span className={missing ? 'text-stop' : ''}>
      {choices ? (
        <>
          {label}{' '}
          <Select
            label={`${label} of ${good}`}
            quiet
            value={value}
            choices={[
              { value: '', name: needed ? 'not answered yet' : 'not said' },
              ...choices.map((choice) => ({ value: choice, name: choice })),
            ]}
            onChange={put}
          />
        </>
      ) : (
        <EntryField label={label} align="left" width="w-20" text={value} read={(typed) => put(typed.trim())} />
      )}
    </span>
  );
}
