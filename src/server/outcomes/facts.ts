import { artworkIdsOf } from '@/core/document/document';
import { chosenColors } from '@/core/document/chosen';
import { isTypicaError } from '@/core/errors';
import type { Severity } from '@/core/findings/finding';
import { usefulShots } from '@/core/listing/pictures';
import { variantTroubles, type VariantTrouble } from '@/core/variants/trouble';
import type { Context } from '../context';
import type { Database } from '../db/pool';
import { acceptancesOf, findingsOf, withAcceptances } from '../findings/findings';
import type { ProductDesign } from '../products/bundle';

/** What the range shows of a product beside its listings, and finds it by. */
export interface ProductFacts {
  readonly productId: string;
  readonly revision: number;
  readonly variants: number;
  readonly troubles: readonly VariantTrouble[];
  readonly picture: { readonly shotId: string; readonly color: string | null } | null;
  /** What the checks say and nobody accepted: of what kinds, how many, and the worst. */
  readonly findings: { readonly kinds: readonly string[]; readonly count: number; readonly worst: Worst | null };
  readonly tags: readonly string[];
}

interface Worst {
  readonly severity: Severity;
  readonly says: string;
}

/** Letters of a kept sentence, and of what troubles variants. */
const SAYS_MAX = 300;
const TROUBLES_MAX = 2000;
const MAX_TAGS = 100;
/** A longer tag is found by how it begins: a filter takes no more of it. */
const MAX_TAG = 80;
const cutTag = (tag: string): string => tag.slice(0, MAX_TAG).toWellFormed();
const WORST_FIRST: readonly Severity[] = ['stop', 'warn', 'note'];

async function openFindings(ctx: Context, design: ProductDesign): Promise<ProductFacts['findings']> {
  try {
    const { workspaceId, id } = design.product;
    const all = withAcceptances(await findingsOf(ctx, design), await acceptancesOf(ctx, workspaceId, id));
    const open = all.filter(({ accepted }) => !accepted);
    const severity = WORST_FIRST.find((one) => open.some((finding) => finding.severity === one));
    const worst = open.find((finding) => finding.severity === severity);
    return {
      kinds: [...new Set(open.map((finding) => finding.id.split(':')[0]!))],
      count: open.length,
      worst: worst ? { severity: worst.severity, says: worst.says } : null,
    };
  } catch (error) {
    // A design that cannot be checked now is judged with its listings, where that is told.
    if (!isTypicaError(error) || !error.visible) throw error;
    return { kinds: [], count: 0, worst: null };
  }
}

function pictureOf({ product, blank, shots }: ProductDesign): ProductFacts['picture'] {
  const [shot] = usefulShots(product.document, blank, shots);
  const [color] = chosenColors(product.document, blank);
  return shot && color !== undefined ? { shotId: shot.id, color } : null;
}

/** What is true of a design as it is saved. */
export const factsOf = async (ctx: Context, design: ProductDesign): Promise<ProductFacts> => ({
  productId: design.product.id,
  revision: design.product.revision,
  variants: Object.keys(design.product.document.variants).length,
  troubles: variantTroubles(design.blank, design.product.document.variants).map((trouble) => ({
    ...trouble,
    variantKeys: [],
  })),
  picture: pictureOf(design),
  findings: await openFindings(ctx, design),
  tags: [
    ...new Set(
      artworkIdsOf(design.product.document.areas).flatMap((id) => (design.artworks.get(id)?.tags ?? []).map(cutTag)),
    ),
  ].slice(0, MAX_TAGS),
});

/** The longest beginning of a list whose text fits its column. */
function fitting(list: readonly unknown[], most: number): string {
  for (let n = list.length; n > 0; n -= 1) {
    const text = JSON.stringify(list.slice(0, n));
    if (text.length <= most) return text;
  }
  return '[]';
}

export async function dropFacts(db: Database, productId: string): Promise<void> {
  for (const table of ['product_facts', 'product_finding', 'product_tag'])
    await db.run(`DELETE FROM ${table} WHERE product_id = ?`, [productId]);
}

/** Keeps the facts of a product in place of what was kept. */
export async function keepFacts(db: Database, workspaceId: string, facts: ProductFacts): Promise<void> {
  const { productId, findings, picture } = facts;
  await dropFacts(db, productId);
  const row = [productId, workspaceId, facts.revision, facts.variants, fitting(facts.troubles, TROUBLES_MAX)];
  await db.insertMany(
    'product_facts',
    [
      ...['product_id', 'workspace_id', 'revision', 'variants', 'troubles', 'shot_id', 'color'],
      ...['findings', 'finding', 'finding_says'],
    ],
    [
      [
        ...row,
        ...[picture?.shotId ?? null, picture?.color ?? null, findings.count],
        ...[findings.worst?.severity ?? null, findings.worst?.says.slice(0, SAYS_MAX).toWellFormed() ?? null],
      ],
    ],
  );
  await db.insertMany(
    'product_finding',
    ['product_id', 'finding', 'workspace_id'],
    findings.kinds.map((kind) => [productId, kind, workspaceId]),
  );
  await db.insertMany(
    'product_tag',
    ['product_id', 'tag', 'workspace_id'],
    facts.tags.map((tag) => [productId, tag, workspaceId]),
  );
}
