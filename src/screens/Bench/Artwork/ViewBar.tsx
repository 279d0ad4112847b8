'use client';

import { Maximize, Minus, Plus } from 'lucide-react';
import { IconButton } from '@/ui/IconButton';

/** How large the area is seen, and in what the rulers count. */
export function ViewBar({
  zoom,
  unit,
  onUnit,
  onZoom,
  onWhole,
}: {
  zoom: number;
  unit: 'cm' | 'in';
  onUnit: (unit: 'cm' | 'in') => void;
  onZoom: (factor: number) => void;
  onWhole: () => void;
}) {
  return (
    <div className="absolute bottom-2 right-2 flex items-center gap-1 rounded-paper border border-hairline bg-sheet px-1 text-tiny">
      <IconButton name="Smaller" title="Smaller (−)" onClick={() => onZoom(1 / 1.25)}>
        <Minus size={14} aria-hidden />
      </IconButton>
      <span className="w-10 text-center" data-testid="zoom">
        {Math.round(zoom * 100)} %
      </span>
      <IconButton name="Larger" title="Larger (+)" onClick={() => onZoom(1.25)}>
        <Plus size={14} aria-hidden />
      </IconButton>
      <IconButton name="See the whole area" title="See the whole area (0)" onClick={onWhole}>
        <Maximize size={14} aria-hidden />
      </IconButton>
      <button
        type="button"
        aria-label={`Rulers in ${unit}; change`}
        className="min-h-6 px-1.5 text-muted hover:text-ink"
        onClick={() => onUnit(unit === 'cm' ? 'in' : 'cm')}
      >
        {unit}
      </button>
    </div>
  );
}
