import { chosenColors } from '../document/chosen';
import { asSoldIn } from '../document/offered';
import { nameColors } from '../document/own-shades';
import { proposedShade, shadeAnswers } from '../listing/shades';
import { ownEntry } from '../own-entry';
import type { Fix, FixWorld } from './fix';

/** Gives each color that is sold and has none of the shop's names one: of its family, as near as there is. Colors without a proposal stay. */
export function mapColors({ doc, blank, storeId, demands, shades: store }: FixWorld): Fix[] {
  const list = demands.shades ?? [];
  const sold = chosenColors(asSoldIn(doc, storeId), blank);
  const found = shadeAnswers(blank, list, { product: ownEntry(doc.shades, storeId), store }).flatMap((answer) => {
    const proposed = answer.shade === null && sold.includes(answer.code) ? proposedShade(answer, list) : null;
    return proposed ? [{ ...answer, proposed }] : [];
  });
  if (found.length === 0) return [];
  const told = (name: (of: (typeof found)[number]) => string) => found.map(name).join(', ');
  return [
    {
      id: 'shades',
      rules: ['shades'],
      says: found.length === 1 ? 'Map a color' : `Map ${found.length} colors`,
      before: told(({ name }) => `${name}: no name`),
      after: told(({ name, proposed }) => `${name}: ${proposed}`),
      everywhere: false,
      apply: (now) =>
        nameColors(now, storeId, Object.fromEntries(found.map(({ code, proposed }) => [code, proposed] as const))),
    },
  ];
}
