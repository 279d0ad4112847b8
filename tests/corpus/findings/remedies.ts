import type { Finding } from '../../../src/core/findings/finding';
import { findFindings } from '../../../src/core/findings/findings';
import { afterRemedy, type Checked } from '../../../src/core/findings/outcome';
import { setLettering } from '../../../src/server/lettering/fonts';
import type { CheckedProduct } from './designs';

/** What became of a remedy: what it left, and what it brought that was not there before. */
export interface Done {
  readonly finding: Finding;
  readonly left: boolean;
  readonly brought: readonly Finding[];
}

/** Texts of a design as they are set after a remedy changed them. */
async function setAnew(checked: Checked): Promise<Checked> {
  const letterings: Record<string, Awaited<ReturnType<typeof setLettering>>> = {};
  for (const { layers } of Object.values(checked.doc.areas))
    for (const [id, layer] of Object.entries(layers))
      if (layer.kind === 'text') letterings[id] = await setLettering(layer.lettering);
  return { ...checked, letterings };
}

/** Does every remedy of a design, one at a time, and looks again. Remedies that make a new artwork are done on what is foreseen of it. */
export async function doAll({ checked, findings }: CheckedProduct): Promise<Done[]> {
  const ids = new Set(findings.map(({ id }) => id));
  const done: Done[] = [];
  for (const finding of findings) {
    if (!finding.remedy || finding.severity === 'note') continue;
    const { doc, blank, artworks, letterings } = await setAnew(afterRemedy(checked, finding, finding.remedy));
    const after = findFindings(doc, blank, artworks, letterings).filter(({ severity }) => severity !== 'note');
    done.push({
      finding,
      left: after.some(({ id }) => id === finding.id),
      brought: after.filter(({ id }) => !ids.has(id)),
    });
  }
  return done;
}
