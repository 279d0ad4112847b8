'use client';

import { colorOption } from '@/core/catalog/blank';
import { chosenColors } from '@/core/document/chosen';
import { keysWith, setChosen } from '@/core/document/choosing';
import { colorsOfSet, type KeptColor } from '@/core/named-sets';
import { NamedSetsMenu } from '@/screens/NamedSetsMenu';
import { toast } from '@/ui/toast';
import { useDesk } from '../desk';

/** Sets of colors that are saved by name: one chooses exactly these, in every size; what the blank does not have is said. */
export function SavedColors() {
  const { data, designed, edit } = useDesk('data', 'designed', 'edit');
  const option = colorOption(data.blank);
  if (!option) return null;
  const chosen = chosenColors(designed, data.blank);
  const colors = option.values.flatMap(({ code, name, hex }) =>
    chosen.includes(code) && hex !== null ? [{ code, name, hex }] : [],
  );
  const use = (kept: readonly KeptColor[], name: string) => {
    const { codes, missing } = colorsOfSet(kept, option.values);
    if (codes.length === 0) return toast.error(`This blank has no color of the set “${name}”.`);
    const wanted = codes.flatMap((code) => keysWith(data.blank, { [option.code]: code }));
    edit(`Choose the colors “${name}”`, (doc) => {
      const others = Object.keys(doc.variants).filter((key) => !wanted.includes(key));
      return setChosen(setChosen(doc, others, false), wanted, true);
    });
    if (missing.length > 0) toast(`This blank does not come in: ${missing.join(', ')}.`);
  };
  return (
    <NamedSetsMenu<{ colors: readonly KeptColor[] }>
      label="Saved colors"
      kind="colors"
      empty="Choose colors, then save them here as a set to use it on other products."
      current={colors.length > 0 ? { colors } : null}
      onUse={(content, name) => use(content.colors, name)}
    />
  );
}
