import type { ProductDocument } from '@/core/document/document';
import { mergeDocuments, type Side } from '@/core/document/merge';
import { applyPatch, diff, KEPT, type Operation, type PatchConflict } from '@/core/document/patch';
import { TypicaError } from '@/core/errors';
import { sameJson } from '@/core/json/bounds';

/** One edit that is not confirmed yet: what it does to the document before it. `entryId`: the step of undo that it belongs to. */
export interface Step {
  readonly id: string;
  readonly entryId: string;
  readonly label: string;
  readonly forward: readonly Operation[];
}

/** A place that this tab and somebody else changed, with the edit of this tab that did. */
export interface Collision extends PatchConflict {
  readonly label: string;
}

export interface Laid {
  /** The steps as they are on the newer document; those that change nothing there are left out. */
  readonly steps: readonly Step[];
  readonly document: ProductDocument;
  readonly collisions: readonly Collision[];
  /** Labels of steps that do not fit without one that was left out. */
  readonly lost: readonly string[];
}

/** The document after all these steps. Throws `patch-failed` when they were not made on it. */
export const after = (document: ProductDocument, steps: readonly Step[]): ProductDocument =>
  applyPatch(
    document,
    steps.flatMap((step) => step.forward),
    KEPT,
  );

/** Places, each with the first value it had and the last that is wanted. */
function byPlace(all: readonly Collision[]): Collision[] {
  const places = new Map<string, Collision>();
  for (const one of all) places.set(one.path, { ...one, base: (places.get(one.path) ?? one).base });
  return [...places.values()];
}

/**
 * Lays steps that were made on `from` over `onto`, which others have made of it. Where both changed the same, `prefer` is taken and the place
 * told. `without`: a step that is left out, and what the later ones need of it with it.
 */
export function lay(
  from: ProductDocument,
  onto: ProductDocument,
  steps: readonly Step[],
  prefer: Side = 'theirs',
  without: string | null = null,
): Laid {
  const laid: Step[] = [];
  const collisions: Collision[] = [];
  const lost: string[] = [];
  let before = from;
  let now = onto;
  for (const step of steps) {
    const wanted = applyPatch(before, step.forward, KEPT);
    if (step.id !== without) {
      const merged = mergeDocuments(before, now, wanted, prefer);
      if (merged.conflicts.length > 0 && without !== null) lost.push(step.label);
      collisions.push(...merged.conflicts.map((conflict) => ({ ...conflict, label: step.label })));
      const forward = diff(now, merged.document);
      if (forward.length > 0) laid.push({ ...step, forward });
      now = merged.document;
    }
    before = wanted;
  }
  return { steps: laid, document: now, collisions: byPlace(collisions), lost };
}

/** A step of undo: from the document before it to the one after it, and back. */
export interface Entry {
  readonly id: string;
  readonly label: string;
  readonly forward: readonly Operation[];
  readonly back: readonly Operation[];
}

export type Turned =
  /** `others`: places that somebody else has set since; going on would write over them. */
  { readonly document: ProductDocument; readonly others: readonly PatchConflict[] } | { readonly document: null };

/** What undoing (`back`) or redoing (`forward`) an entry makes of a document; null when what it changes is no longer there. */
export function turn(document: ProductDocument, entry: Entry, way: 'back' | 'forward'): Turned {
  try {
    const turned = applyPatch(document, entry[way], KEPT);
    // Where nobody else was, going there and back again gives the document as it is.
    const again = applyPatch(turned, entry[way === 'back' ? 'forward' : 'back'], KEPT);
    if (sameJson(again, document)) return { document: turned, others: [] };
    const { conflicts } = mergeDocuments(again, document, turned, 'yours');
    return { document: turned, others: conflicts };
  } catch (error) {
    if (!(error instanceof TypicaError)) throw error;
    return { document: null };
  }
}
