'use client';

import { useDesk } from '../desk';
import { SmallProof } from '../SmallProof';

/** The design on one color, small: as it is now. */
export function ColorPicture({ code, name }: { code: string; name: string }) {
  const { designed } = useDesk('designed');
  return (
    <SmallProof areas={designed.areas} color={code} label={`The design on ${name}`} sidePx={88} className="size-11" />
  );
}
