import Link from 'next/link';
import type { ProductEffect } from './load';
import { EFFECT_WORDS, worstTexts, type effectGroups } from './view';

const RULES = { stop: 'border-stop', caution: 'border-caution' } as const;
const TEXTS = { stop: 'text-stop', caution: 'text-caution' } as const;

/** Products that lose money, earn less than was set, or lose variants; each with what to do. */
export function Effects({ groups }: { groups: ReturnType<typeof effectGroups> }) {
  if (groups.length === 0)
    return (
      <p className="text-small text-kept">✓ All your products keep their variants and earn at least what you set.</p>
    );
  return (
    <div className="space-y-4">
      {groups.map(({ kind, effects }) => {
        const { word, title, tone } = EFFECT_WORDS[kind];
        return (
          <section key={kind} className={`border-l-[3px] pl-3 ${RULES[tone]}`}>
            <h3 className={`text-small font-semibold ${TEXTS[tone]}`}>
              {word}: {title},{' '}
              {effects.length === 1 ? '1 listing or product' : `${effects.length} listings or products`}
            </h3>
            <table className="w-full text-small">
              <thead className="text-left text-muted">
                <tr className="border-b border-hairline">
                  <th className="font-normal py-1">Product</th>
                  <th className="font-normal">Variants</th>
                  {effects.some((effect) => effect.worst) && (
                    <>
                      <th className="font-normal text-right">Price</th>
                      <th className="font-normal text-right">Left of it</th>
                      <th className="font-normal text-right">Margin</th>
                    </>
                  )}
                  <th className="font-normal pl-6">What to do</th>
                </tr>
              </thead>
              <tbody>
                {effects.map((effect) => (
                  <Line key={`${effect.productId}/${effect.store?.id ?? ''}`} effect={effect} />
                ))}
              </tbody>
            </table>
          </section>
        );
      })}
    </div>
  );
}

function Line({ effect }: { effect: ProductEffect }) {
  const worst = effect.worst && worstTexts(effect.worst);
  const part = effect.worst ? 'price' : 'variants';
  return (
    <tr className="border-b border-hairline align-top last:border-0">
      <td className="py-1 pr-4">
        <Link href={`/products/${effect.productId}?part=${part}`} className="font-semibold hover:text-primary">
          {effect.title}
        </Link>
        <span className="block text-tiny text-muted">
          {effect.store ? `in ${effect.store.name}` : 'at its own prices'}
        </span>
      </td>
      <td className="py-1 pr-4 max-w-48">{effect.variants}</td>
      {worst && (
        <>
          <td className="py-1 text-right whitespace-nowrap">{worst.retail}</td>
          <td className="py-1 pl-4 text-right whitespace-nowrap">{worst.profit}</td>
          <td className="py-1 pl-4 text-right whitespace-nowrap">{worst.margin}</td>
        </>
      )}
      <td className="py-1 pl-6 max-w-md">
        {effect.says} <span className="text-muted">{effect.remedy}</span>
      </td>
    </tr>
  );
}
