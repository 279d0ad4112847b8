'use client';

import { useRouter } from 'next/navigation';
import { call } from '@/ui/api';
import { SureButton } from '@/ui/SureButton';
import type { MoneyData } from './load';
import { HEAD, LINE } from './section';

/** The price rules that are kept by name. */
export function Rules({ rules, onProblem }: { rules: MoneyData['rules']; onProblem: (says: string) => void }) {
  const router = useRouter();
  return (
    <section className="col-span-full">
      <h2 className={HEAD}>Price rules</h2>
      {rules.length === 0 ? (
        <p className="text-small text-muted">
          A rule is kept from a product: open its part Price, set an aim for all, and keep it by a name.
        </p>
      ) : (
        <ul className="border-t border-hairline text-small">
          {rules.map((rule) => (
            <li key={rule.id} className={LINE}>
              <span className="w-44 font-semibold">{rule.name}</span>
              <span>{rule.says}</span>
              {rule.forNew && <span className="text-kept">✓ new products begin with it</span>}
              <SureButton
                className="ml-auto"
                title={`Delete the price rule “${rule.name}”?`}
                says="Products that it was applied to keep their prices. New products no longer begin with it."
                act={() =>
                  call('DELETE', `/pricing/rules/${rule.id}`).then(
                    () => router.refresh(),
                    (error: Error) => onProblem(error.message),
                  )
                }
              >
                Delete
              </SureButton>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
