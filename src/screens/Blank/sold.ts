import type { SkuMatch } from '@/core/variants/match';

/** What a person said of a line: a variant's key, or empty to leave it out. By line. */
export type Answers = Readonly<Record<number, string>>;

export interface SoldRow {
  readonly match: SkuMatch;
  /** The variant that it is taken for, or null for none. */
  readonly chosen: string | null;
  /** In doubt, and nobody has said yet. */
  readonly needsPerson: boolean;
}

/** A doubtful line is taken for nothing until a person says so. */
function chosenOf(match: SkuMatch, answers: Answers): string | null {
  const said = answers[match.line];
  if (said !== undefined) return said || null;
  return match.certainty === 'sure' ? match.variantKey : null;
}

/** Lines for a person, those in doubt first, else in the order of the file. */
export function soldRows(matches: readonly SkuMatch[], answers: Answers): SoldRow[] {
  return matches
    .map((match) => ({
      match,
      chosen: chosenOf(match, answers),
      needsPerson: match.certainty === 'doubtful' && answers[match.line] === undefined,
    }))
    .sort(
      (a, b) =>
        Number(b.match.certainty === 'doubtful') - Number(a.match.certainty === 'doubtful') ||
        a.match.line - b.match.line,
    );
}

/** The variants that a product is to have, and those that more than one line is taken for. */
export function chosenVariants(
  matches: readonly SkuMatch[],
  answers: Answers,
): { variants: { key: string; sku: string; retailMinor?: number }[]; twice: string[] } {
  const variants: { key: string; sku: string; retailMinor?: number }[] = [];
  const seen = new Set<string>();
  const twice = new Set<string>();
  for (const match of matches) {
    const key = chosenOf(match, answers);
    if (key === null) continue;
    if (seen.has(key)) twice.add(key);
    seen.add(key);
    variants.push({ key, sku: match.sku, ...(match.priceMinor === null ? {} : { retailMinor: match.priceMinor }) });
  }
  return { variants, twice: [...twice] };
}
