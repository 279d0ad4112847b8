'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Blank } from '@/core/catalog/blank';
import type { CsvFault } from '@/core/csv/fault';
import { formatMoney, money } from '@/core/pricing/money';
import type { SkuMatch } from '@/core/variants/match';
import { variantName } from '@/core/variants/tiers';
import { Alert } from '@/ui/Alert';
import { call, Problem, upload } from '@/ui/api';
import { Button } from '@/ui/Button';
import { Select } from '@/ui/Select';
import { Sheet } from '@/ui/Sheet';
import { FaultTable } from '../PriceLists/FaultTable';
import { chosenVariants, soldRows } from './sold';

const NONE = '';

/** A list of what is sold already: what was read of it, what the person says, and the product that is made of it. */
function useSold(blank: Blank) {
  const router = useRouter();
  const [matches, setMatches] = useState<readonly SkuMatch[] | null>(null);
  const [currency, setCurrency] = useState('');
  const [answers, setAnswers] = useState<Readonly<Record<number, string>>>({});
  const [title, setTitle] = useState('');
  const [problem, setProblem] = useState<{ says: string; faults: readonly CsvFault[] } | null>(null);
  const [making, setMaking] = useState(false);

  const read = async (file: File) => {
    setProblem(null);
    setMatches(null);
    setAnswers({});
    try {
      const answer = await upload<{ currency: string; matches: SkuMatch[] }>(
        `/blanks/${blank.id}/sku-matches`,
        file,
        () => {},
      );
      setMatches(answer.matches);
      setCurrency(answer.currency);
      setTitle((old) => old || file.name.replace(/\.[^.]*$/, ''));
    } catch (error) {
      const faults = error instanceof Problem ? ((error.fields.faults as CsvFault[] | undefined) ?? []) : [];
      setProblem({ says: (error as Error).message, faults });
    }
  };
  const { variants, twice } = matches ? chosenVariants(matches, answers) : { variants: [], twice: [] };
  const rows = matches ? soldRows(matches, answers) : [];
  const make = async () => {
    setMaking(true);
    try {
      const { id } = await call<{ id: string }>('POST', '/products', { blankId: blank.id, title, variants });
      router.push(`/products/${id}`);
    } catch (error) {
      setProblem({ says: `No product was made. ${(error as Error).message}`, faults: [] });
      setMaking(false);
    }
  };
  const answer = (line: number, variantKey: string) => setAnswers({ ...answers, [line]: variantKey });
  return { matches, variants, twice, rows, currency, problem, title, setTitle, making, read, answer, make };
}

/** Makes a product without artwork of what is sold already: a list of SKUs, each matched with a variant or left to the person. */
export function SoldList({ blank, open, onClose }: { blank: Blank; open: boolean; onClose: () => void }) {
  const sold = useSold(blank);
  const { matches, variants, twice, rows, currency, problem, title, making } = sold;
  const open_ = rows.filter((row) => row.needsPerson).length;
  return (
    <Sheet open={open} onClose={onClose} title={`What you sell already on ${blank.name}`} wide>
      <p className="text-small mb-2">
        A CSV with the column <code className="font-mono">sku</code> and at least one of{' '}
        <code className="font-mono">title, color, size, variant</code>, and the <code className="font-mono">price</code>{' '}
        where buyers pay one already. Each line is matched with a variant by its words for size and color; where that is
        in doubt, you say. Your SKUs and prices are kept.
      </p>
      <PickFile chosen={matches !== null} onFile={(file) => void sold.read(file)} />
      {problem && (
        <div className="mt-3">
          <Alert>{problem.says}</Alert>
          {problem.faults.length > 0 && <FaultTable faults={problem.faults} />}
        </div>
      )}
      {matches && (
        <>
          <p className="mt-3 text-small" role="status">
            {variants.length} of {matches.length} lines have a variant
            {open_ > 0 && <span className="text-caution">, {open_} for you to say</span>}.
          </p>
          <Lines blank={blank} rows={rows} currency={currency} onAnswer={sold.answer} />
          {twice.length > 0 && (
            <Alert className="mt-2">
              {twice.map((key) => variantName(blank, key)).join('; ')}: more than one line is this variant. One variant
              has one SKU; choose another or leave a line out.
            </Alert>
          )}
          <MakeBar
            title={title}
            onTitle={sold.setTitle}
            lines={variants.length}
            making={making}
            off={twice.length > 0}
            onMake={() => void sold.make()}
          />
        </>
      )}
    </Sheet>
  );
}

function PickFile({ chosen, onFile }: { chosen: boolean; onFile: (file: File) => void }) {
  return (
    <label className="inline-block rounded-paper border border-edge px-3 py-1.5 text-small hover:border-muted focus-within:outline-2 focus-within:outline-primary cursor-pointer">
      {chosen ? 'Choose another file' : 'Choose the CSV file'}
      <input
        type="file"
        accept=".csv,text/csv"
        data-testid="sold-file"
        className="sr-only"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) onFile(file);
        }}
      />
    </label>
  );
}

/** The lines of the list, each with the variant that it is taken for. */
function Lines({
  blank,
  rows,
  currency,
  onAnswer,
}: {
  blank: Blank;
  rows: ReturnType<typeof soldRows>;
  currency: string;
  onAnswer: (line: number, variantKey: string) => void;
}) {
  const choices = [
    { value: NONE, name: 'leave out' },
    ...blank.variants
      .filter((variant) => !variant.ended)
      .map((variant) => ({ value: variant.key, name: variantName(blank, variant.key) || 'the only variant' })),
  ];
  return (
    <div className="mt-1 max-h-96 overflow-auto border-y border-hairline" tabIndex={0} role="region" aria-label="Lines">
      <table className="w-full text-small">
        <thead className="sticky top-0 bg-sheet text-left text-muted">
          <tr className="border-b border-hairline">
            <th className="font-normal py-1 pr-3 text-right">Line</th>
            <th className="font-normal pr-3">SKU</th>
            <th className="font-normal pr-3">What it says</th>
            <th className="font-normal pr-3 text-right">Price</th>
            <th className="font-normal">Variant</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ match, chosen, needsPerson }) => (
            <tr key={match.line} className="border-b border-hairline align-top">
              <td className="py-1 pr-3 text-right text-muted">{match.line}</td>
              <td className="pr-3 py-1 font-mono text-tiny">{match.sku}</td>
              <td className="pr-3 py-1">{match.text}</td>
              <td className="pr-3 py-1 text-right whitespace-nowrap">
                {match.priceMinor === null ? '–' : formatMoney(money(match.priceMinor, currency))}
              </td>
              <td className={`py-0.5 ${needsPerson ? 'border-l-[3px] border-caution pl-2' : 'pl-[11px]'}`}>
                <Select
                  label={`Variant of ${match.sku}`}
                  quiet
                  value={chosen ?? NONE}
                  choices={choices}
                  onChange={(value) => onAnswer(match.line, value)}
                />
                {needsPerson && <span className="block text-tiny text-caution">{match.says}</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function MakeBar({
  title,
  onTitle,
  lines,
  making,
  off,
  onMake,
}: {
  title: string;
  onTitle: (title: string) => void;
  lines: number;
  making: boolean;
  off: boolean;
  onMake: () => void;
}) {
  return (
    <div className="mt-3 flex items-center gap-3">
      <label className="flex flex-1 items-baseline gap-2 text-small">
        Title
        <input
          className="flex-1 rounded-paper border border-edge bg-sheet px-2 py-1"
          value={title}
          onChange={(e) => onTitle(e.target.value)}
        />
      </label>
      <Button kind="primary" disabled={making || lines === 0 || off} onClick={onMake}>
        {making ? 'Making …' : `Make a product of ${lines === 1 ? '1 line' : `${lines} lines`}`}
      </Button>
    </div>
  );
}
