'use client';

import { ChevronLeft, ChevronRight } from 'lucide-react';
import { IconButton } from '@/ui/IconButton';
import { useDeskNow } from '../desk';
import { stepColor } from '../keys';

/** Walks the colors, as the keys , and . do. */
export function ColorSteps() {
  const now = useDeskNow();
  return (
    <span className="inline-flex">
      <IconButton name="Previous color" title="Key ," onClick={() => stepColor(now(), -1)}>
        <ChevronLeft size={15} aria-hidden />
      </IconButton>
      <IconButton name="Next color" title="Key ." onClick={() => stepColor(now(), 1)}>
        <ChevronRight size={15} aria-hidden />
      </IconButton>
    </span>
  );
}
