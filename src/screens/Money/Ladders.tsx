'use client';

import { useState } from 'react';
import { formatAmount, isCurrency, money, parseAmountMinor } from '@/core/pricing/money';
import { Alert } from '@/ui/Alert';
import { Button } from '@/ui/Button';
import { HEAD, LINE, type SectionProps } from './section';

/** Prices that may be asked for, by currency: products whose prices end in a price of the ladder take one of these. */
export function Ladders({ data, settings, save }: SectionProps) {
  const { ladders } = settings;
  const [currency, setCurrency] = useState(data.currency);
  const [typed, setTyped] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  const keep = () => {
    try {
      const code = currency.trim().toUpperCase();
      if (!isCurrency(code)) throw new Error(`“${currency}” is not a currency’s code, such as USD.`);
      const rungs = typed
        .split(/[\s;]+/)
        .filter(Boolean)
        .map((text) => parseAmountMinor(text, code));
      if (rungs.length === 0 || rungs.some((rung) => rung <= 0))
        throw new Error('Type the prices with spaces between them, each above zero: 9.99 12.99 14.99.');
      save({ ...settings, ladders: { ...ladders, [code]: [...new Set(rungs)].sort((a, b) => a - b) } });
      setTyped('');
      setProblem(null);
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <section>
      <h2 className={HEAD}>Price ladders</h2>
      <ul className="border-t border-hairline text-small">
        {Object.entries(ladders).map(([code, rungs]) => {
          const { [code]: _gone, ...rest } = ladders;
          return (
            <li key={code} className={LINE}>
              <span className="w-12">{code}</span>
              <span className="min-w-0 flex-1 font-mono">
                {rungs.map((rung) => formatAmount(money(rung, code))).join('  ')}
              </span>
              <Button kind="quiet" onClick={() => save({ ...settings, ladders: rest })}>
                Delete
              </Button>
            </li>
          );
        })}
      </ul>
      {problem && <Alert className="mt-2">{problem}</Alert>}
      <form
        className="mt-2 flex flex-wrap items-baseline gap-3 text-small"
        onSubmit={(e) => {
          e.preventDefault();
          keep();
        }}
      >
        <input
          aria-label="Currency of the ladder"
          value={currency}
          maxLength={3}
          onChange={(e) => setCurrency(e.target.value.toUpperCase())}
          className="w-11 border-b border-edge bg-transparent font-mono"
        />
        <input
          aria-label="Prices of the ladder"
          value={typed}
          placeholder="9.99 12.99 14.99 19.99"
          onChange={(e) => setTyped(e.target.value)}
          className="w-64 border-b border-edge bg-transparent font-mono"
        />
        <Button type="submit" disabled={typed.trim() === ''}>
          Keep
        </Button>
      </form>
    </section>
  );
}
