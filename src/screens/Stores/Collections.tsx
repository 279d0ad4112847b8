'use client';

import { EntryField } from '@/ui/Field';
import { Button } from '@/ui/Button';
import { answering, type AskedProps } from './Asked';

/** Collections of the shop that tags put a product in. */
export function Collections(props: AskedProps) {
  const { asks, answers } = props.store;
  const answer = answering(props);
  if (!asks.collections) return null;
  const own = Object.entries(answers.collectionsByTag ?? {});
  const put = (tag: string, collection: string | null) => answer({ collectionsByTag: { [tag]: collection } });
  return (
    <details className="mt-6 text-small" open={own.length > 0}>
      <summary className="cursor-pointer">
        <h2 className="inline font-display text-[17px]">Collections</h2>{' '}
        <span className="text-muted">that a tag puts a product in</span>
      </summary>
      <ul className="mt-1.5 border-t border-hairline">
        {own.map(([tag, collection]) => (
          <li key={tag} className="flex items-baseline gap-4 border-b border-hairline py-1">
            <span className="w-40">{tag}</span>
            <EntryField
              label={`Collection for ${tag}`}
              showLabel={false}
              align="left"
              width="w-56"
              text={collection}
              read={(typed) => put(tag, typed.trim() || null)}
            />
            <Button kind="quiet" aria-label={`Remove the collection for ${tag}`} onClick={() => put(tag, null)}>
              Remove
            </Button>
          </li>
        ))}
      </ul>
      <p className="mt-1.5">
        <EntryField
          label="For another tag"
          align="left"
          width="w-40"
          text=""
          read={(typed) => {
            const tag = typed.trim().toLocaleLowerCase('en');
            if (tag !== '') put(tag, typed.trim());
          }}
        />
      </p>
    </details>
  );
}
