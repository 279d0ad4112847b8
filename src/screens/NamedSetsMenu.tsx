'use client';

import type { SetContent, SetKind } from '@/core/named-sets';
import { Details } from '@/ui/Details';
import { later } from '@/ui/later';

const NamedSets = later(() => import('./NamedSets').then((m) => m.NamedSets)) as typeof import('./NamedSets').NamedSets;

/** A button that opens what is kept under names of one kind. */
export function NamedSetsMenu<C extends SetContent>({
  label,
  ...sets
}: {
  label: string;
  kind: SetKind;
  empty: string;
  current: C | null;
  onUse: (content: C, name: string) => void;
}) {
  return (
    <Details
      anchor="bottom start"
      buttonClass="min-h-6 text-small text-primary underline underline-offset-2"
      panelClass="z-50 mt-1 w-72 max-w-[94vw] rounded-paper border border-ink bg-sheet p-3"
      button={label}
    >
      <NamedSets {...sets} />
    </Details>
  );
}
