'use client';

import Link from 'next/link';
import { SEVERITY_WORDS } from '@/screens/severity';
import type { BenchListing } from '../desk';
import type { Part } from '../parts';

/** The rules of a shop on this product: those that are broken with what to do, and folded those that are met. */
export function Rules({
  rules,
  storeId,
  onGo,
  onAccept,
}: {
  rules: BenchListing['rules'];
  storeId: string;
  onGo: (part: Part) => void;
  onAccept: (accept: boolean) => void;
}) {
  const broken = rules.filter((rule) => !rule.kept);
  const kept = rules.filter((rule) => rule.kept);
  return (
    <div className="mt-3 text-small">
      {broken.map((rule) => (
        <div key={rule.id} className="flex gap-3 border-l-[3px] border-stop pl-2 py-1" data-testid="broken-rule">
          <span className="text-stop w-16 shrink-0">{SEVERITY_WORDS.stop}</span>
          <span>
            {rule.says}{' '}
            {rule.mend &&
              (rule.part === 'stores' ? (
                <Link href={`/stores/${storeId}`} className="text-primary underline">
                  {rule.mend}
                </Link>
              ) : (
                <button type="button" className="text-primary underline" onClick={() => onGo(rule.part as Part)}>
                  {rule.mend}
                </button>
              ))}
            {rule.acceptable && (
              <button type="button" className="block text-muted underline" onClick={() => onAccept(true)}>
                I accept selling at a loss
              </button>
            )}
          </span>
        </div>
      ))}
      {kept
        .filter((rule) => rule.acceptedBy)
        .map((rule) => (
          <p key={rule.id} className="border-l-[3px] border-caution pl-2 py-1" data-testid="accepted-loss">
            <span className="text-caution">{SEVERITY_WORDS.warn}</span> {rule.says} {rule.acceptedBy} accepted it as it
            stands.{' '}
            <button type="button" className="text-primary underline" onClick={() => onAccept(false)}>
              Withdraw
            </button>
          </p>
        ))}
      {kept.length > 0 && (
        <details className="mt-1.5">
          <summary className="cursor-pointer text-kept">
            ✓ {kept.length} of {rules.length} requirements of the shop are met
          </summary>
          <ul className="mt-1 pl-4">
            {kept.map((rule) => (
              <li key={rule.id} className="py-0.5 text-muted">
                ✓ {rule.says}
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}
