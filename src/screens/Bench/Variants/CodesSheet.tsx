'use client';

import { setCodes } from '@/core/document/choosing';
import { skuCollisions, checkPattern, MAX_SKU, PLAIN_PATTERN, SKU_TOKENS, skusOf } from '@/core/variants/sku';
import type { CodeChange } from '@/core/variants/codes-csv';
import { parseGtin } from '@/core/variants/gtin';
import { variantName } from '@/core/variants/tiers';
import { ownEntry } from '@/core/own-entry';
import { EntryField } from '@/ui/Field';
import { Sheet } from '@/ui/Sheet';
import { TableHead } from '@/ui/TableHead';
import { CsvSheet } from '../CsvSheet';
import { useDesk } from '../desk';

/** SKUs by a pattern or by hand, and GTINs: each variant's own. What a shop has seen stays. */
export function CodesSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Sheet open={open} onClose={onClose} title="SKUs and GTINs" wide>
      {open && <Codes />}
    </Sheet>
  );
}

function Codes() {
  const { data, doc, edit } = useDesk('data', 'doc', 'edit');
  const { blank, product, sentSkus } = data;
  const skus = skusOf(product.id, doc, blank, sentSkus);
  const collisions = skuCollisions(skus);
  const sharedSkus = new Set(collisions.flatMap(({ variantKeys }) => variantKeys));
  const sharedGtins = repeated([...skus.keys()].map((key) => ownEntry(doc.variants, key)?.gtin ?? ''));
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <EntryField
          label="Pattern"
          align="left"
          width="w-64"
          text={doc.skuPattern ?? PLAIN_PATTERN}
          read={(typed) => {
            const faults = checkPattern(typed, blank);
            if (faults.length > 0) throw new Error(faults.join(' '));
            edit('Set SKU pattern', (d) => ({ ...d, skuPattern: typed.trim() }));
          }}
        />
        <CsvSheet<CodeChange>
          what="Codes"
          path="codes"
          columns={['Variant', 'GTIN', 'New SKU']}
          rowOf={({ variantKey, gtin, sku }) => [variantName(blank, variantKey), gtin ?? '', sku ?? '']}
          apply={(changes) => edit(`Codes from a file (${changes.length})`, (d) => setCodes(d, changes))}
        />
      </div>
      <p className="text-tiny text-muted mt-1">
        {[
          ...SKU_TOKENS.map(([name, says]) => `{${name}}: ${says}`),
          ...blank.options.map((option) => `{${option.code}}: its ${option.name.toLowerCase()}`),
        ].join('; ')}
        .
      </p>
      <Collisions collisions={collisions} />
      <div className="max-h-[55vh] overflow-auto mt-3 border-y border-hairline">
        <table className="w-full text-small">
          <TableHead className="sticky top-0 bg-sheet" columns={[['Variant', 'py-1.5'], 'SKU', 'GTIN']} />
          <tbody>
            {[...skus].map(([key, sku]) => (
              <CodeRow key={key} variantKey={key} sku={sku} isShared={sharedSkus.has(key)} sharedGtins={sharedGtins} />
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

/** Values, but not the empty one, that come more than once. */
function repeated(values: readonly string[]): ReadonlySet<string> {
  const seen = new Set<string>();
  return new Set(values.filter((value) => value !== '' && (seen.has(value) || !seen.add(value))));
}

function Collisions({ collisions }: { collisions: ReturnType<typeof skuCollisions> }) {
  const [first] = collisions;
  if (!first) return null;
  return (
    <p className="border-l-[3px] border-stop pl-3 mt-2 text-small" role="alert">
      <span className="text-stop font-semibold">Must fix</span> {first.sku} would be the SKU of{' '}
      {first.variantKeys.length} variants
      {collisions.length > 1 ? `, and ${collisions.length - 1} more are shared` : ''}. Add {'{options}'} or {'{n}'} to
      the pattern: each variant needs its own.
    </p>
  );
}

interface CodeRowProps {
  readonly variantKey: string;
  readonly sku: string;
  readonly isShared: boolean;
  readonly sharedGtins: ReadonlySet<string>;
}

function CodeRow({ variantKey, sku, isShared, sharedGtins }: CodeRowProps) {
  const { data, doc, edit } = useDesk('data', 'doc', 'edit');
  const name = variantName(data.blank, variantKey);
  const gtin = ownEntry(doc.variants, variantKey)?.gtin ?? '';
  const isSent = ownEntry(data.sentSkus, variantKey) !== undefined;
  return (
    <tr className="border-t border-hairline">
      <td className="py-1 pr-4">{name}</td>
      <td className="pr-4">
        {isSent ? (
          <span className="font-mono" title="A shop has seen it: it stays">
            {sku} <span className="text-tiny text-muted font-sans">sent, stays</span>
          </span>
        ) : (
          <EntryField
            label={`SKU of ${name}`}
            showLabel={false}
            align="left"
            width="w-72"
            text={sku}
            read={(typed) => {
              const next = typed.trim();
              if (next.length > MAX_SKU) throw new Error(`A SKU has at most ${MAX_SKU} characters.`);
              edit(`Set SKU of ${name}`, (d) => setCodes(d, [{ variantKey, sku: next }]));
            }}
          />
        )}
        {isShared && !isSent && <span className="text-tiny text-stop"> shared</span>}
      </td>
      <td>
        <EntryField
          label={`GTIN of ${name}`}
          showLabel={false}
          align="left"
          width="w-40"
          text={gtin}
          read={(typed) => {
            const next = typed.trim() === '' ? '' : parseGtin(typed);
            edit(`Set GTIN of ${name}`, (d) => setCodes(d, [{ variantKey, gtin: next }]));
          }}
        />
        {sharedGtins.has(gtin) && <span className="text-tiny text-stop"> shared</span>}
      </td>
    </tr>
  );
}
