'use client';

import { arrangePictures, type PictureChoice } from '@/bench/picturing';
import { chosenColors } from '@/core/document/chosen';
import type { Picture } from '@/core/document/document';
import { MAX_SET_MEMBERS, shotsOfSet, type KeptShot } from '@/core/named-sets';
import { NamedSetsMenu } from '@/screens/NamedSetsMenu';
import { toast } from '@/ui/toast';
import { useDesk, useDeskNow } from '../desk';

/** Orders of shots that are saved by name, for this product and for others: what another blank has no shot of is said. */
export function SavedOrders({ choice, pictures }: { choice: PictureChoice; pictures: readonly Picture[] }) {
  const { data, edit } = useDesk('data', 'edit');
  const now = useDeskNow();
  const shots = pictures
    .flatMap(({ shotId, color }): KeptShot[] => {
      const shot = data.shots.find(({ id }) => id === shotId);
      return shot ? [{ angle: shot.angle, name: shot.name, color: color ?? null }] : [];
    })
    .slice(0, MAX_SET_MEMBERS);
  const use = (kept: readonly KeptShot[], name: string) => {
    const { pictures: found, missing } = shotsOfSet(kept, data.shots, chosenColors(now().doc, data.blank));
    if (found.length === 0) return toast.error(`This blank has no shot of the order “${name}”.`);
    edit(`Use the order of shots “${name}”`, (doc) => arrangePictures(doc, choice, found));
    if (missing.length > 0) toast(`This blank has no shot for: ${missing.join(', ')}.`);
  };
  return (
    <NamedSetsMenu<{ shots: readonly KeptShot[] }>
      label="Saved orders"
      kind="shots"
      empty="Choose shots and put them in order, then save the order here to use it on other products."
      current={shots.length > 0 ? { shots } : null}
      onUse={(content, name) => use(content.shots, name)}
    />
  );
}
