'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { colorOption, type Blank } from '@/core/catalog/blank';
import { ownEntry } from '@/core/own-entry';
import { Alert } from '@/ui/Alert';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { count } from '@/core/words/count';
import { variantsOfColors } from './view';

/** Makes a product on this blank in the colors that were chosen. */
export function MakeProduct({ blank, onPoint }: { blank: Blank; onPoint: (color: string | null) => void }) {
  const router = useRouter();
  const option = colorOption(blank);
  const [colors, setColors] = useState<ReadonlySet<string>>(new Set());
  const [making, setMaking] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const keys = variantsOfColors(blank, colors);
  const gone = keys.filter((key) => !blank.variants.find((variant) => variant.key === key)!.inStock).length;
  const make = async () => {
    setMaking(true);
    setProblem(null);
    try {
      const { id } = await call<{ id: string }>('POST', '/products', {
        blankId: blank.id,
        variants: keys.map((key) => ({ key })),
      });
      router.push(`/products/${id}`);
    } catch (error) {
      setProblem((error as Error).message);
      setMaking(false);
    }
  };
  return (
    <section aria-labelledby="make-product">
      <h2 id="make-product" className="font-display text-[16px] mb-1.5">
        Make a product
      </h2>
      {option && <ColorChoice blank={blank} option={option} colors={colors} onColors={setColors} onPoint={onPoint} />}
      <Button kind="primary" disabled={making} onClick={() => void make()}>
        {making ? 'Making …' : 'Make a product'}
      </Button>
      <p className="mt-1 text-tiny text-muted">
        {option && colors.size === 0
          ? `Without a ${option.name.toLowerCase()} now; variants can be chosen on the bench.`
          : `${count(keys.length, 'variant')}${gone > 0 ? `, ${gone} of them out of stock now` : ''}.`}
      </p>
      {problem && <Alert className="mt-2">No product was made. {problem}</Alert>}
    </section>
  );
}

/** Ticks for the colors, or what the blank has in their place; those that the partner ended are shown, not offered. */
function ColorChoice({
  blank,
  option,
  colors,
  onColors,
  onPoint,
}: {
  blank: Blank;
  option: Blank['options'][number];
  colors: ReadonlySet<string>;
  onColors: (colors: ReadonlySet<string>) => void;
  onPoint: (color: string | null) => void;
}) {
  const able = new Set(blank.variants.filter((v) => !v.ended).map((v) => ownEntry(v.values, option.code)));
  const all = option.values.filter((value) => able.has(value.code));
  const toggle = (code: string) => {
    const next = new Set(colors);
    if (!next.delete(code)) next.add(code);
    onColors(next);
  };
  return (
    <>
      <div className="flex items-baseline justify-between text-small text-muted">
        <span>In which {option.name.toLowerCase()}?</span>
        <button
          type="button"
          className="min-h-6 text-primary underline underline-offset-2"
          onClick={() => onColors(colors.size === all.length ? new Set() : new Set(all.map((value) => value.code)))}
        >
          {colors.size === all.length ? 'none' : 'all'}
        </button>
      </div>
      <ul className="mb-2 text-small" onPointerLeave={() => onPoint(null)}>
        {option.values.map((value) => (
          <li key={value.code} onPointerEnter={() => onPoint(value.code)}>
            <label className={`flex min-h-6 items-center gap-2 ${able.has(value.code) ? '' : 'text-muted'}`}>
              <input
                type="checkbox"
                className="size-3.5 accent-primary"
                checked={colors.has(value.code)}
                disabled={!able.has(value.code)}
                onFocus={() => onPoint(value.code)}
                onBlur={() => onPoint(null)}
                onChange={() => toggle(value.code)}
              />
              <span
                aria-hidden
                className="inline-block size-4 rounded-[2px] border border-ink/25"
                style={{ background: value.hex ?? undefined }}
              />
              {value.name}
              {!able.has(value.code) && ' (ended)'}
            </label>
          </li>
        ))}
      </ul>
    </>
  );
}
