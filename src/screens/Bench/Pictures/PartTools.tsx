'use client';

import type { Part } from '@/core/shot/part';
import { Button } from '@/ui/Button';
import type { MarkTool } from './PhotoSurface';

const TOOLS: readonly { readonly tool: MarkTool; readonly name: string }[] = [
  { tool: 'marks', name: 'Marks' },
  { tool: 'pick', name: 'Pick' },
  { tool: 'paint', name: 'Paint' },
  { tool: 'erase', name: 'Erase' },
];

/** What takes the fabric's color: picked by a press, painted by a stroke, or nothing. */
export function PartTools({
  part,
  share,
  tool,
  setTool,
  brushPx,
  setBrush,
  tolerance,
  setTolerance,
  change,
}: {
  part: Part | null;
  /** Of the photograph. */
  share: number | null;
  tool: MarkTool;
  setTool: (tool: MarkTool) => void;
  brushPx: number;
  setBrush: (px: number) => void;
  tolerance: number;
  setTolerance: (steps: number) => void;
  change: (part: Part | null) => void;
}) {
  const reach = (steps: number) => {
    setTolerance(steps);
    // The last pick follows, so that one sees what it means.
    if (part && part.picks.length > 0)
      change({ ...part, picks: [...part.picks.slice(0, -1), { ...part.picks.at(-1)!, tolerance: steps }] });
  };
  return (
    <fieldset className="grid gap-2 border-t border-hairline pt-3">
      <legend className="sr-only">What takes the fabric’s color</legend>
      <p className="font-medium">What takes the fabric’s color</p>
      <p className="text-tiny text-muted">
        {part
          ? `${Math.round((share ?? 0) * 100)} % of the photograph, laid over in violet.`
          : 'Nothing: the good keeps the color that it has in the photograph.'}
      </p>
      <div role="group" aria-label="Tool" className="flex border border-hairline rounded-paper w-fit">
        {TOOLS.map((one) => (
          <button
            key={one.tool}
            type="button"
            aria-pressed={tool === one.tool}
            onClick={() => setTool(one.tool)}
            className={`px-2.5 py-1 text-small ${tool === one.tool ? 'bg-selection font-semibold' : 'hover:bg-paper'}`}
          >
            {one.name}
          </button>
        ))}
      </div>
      {tool === 'pick' && <Slider label="Takes in more" min={6} max={110} value={tolerance} onChange={reach} />}
      {(tool === 'paint' || tool === 'erase') && (
        <Slider label="Brush" min={4} max={200} value={brushPx} onChange={setBrush} />
      )}
      {part && (
        <p className="flex gap-3">
          <Button kind="quiet" onClick={() => change(withoutLast(part))}>
            Back one step
          </Button>
          <Button kind="quiet" onClick={() => change(null)}>
            Nothing takes it
          </Button>
        </p>
      )}
    </fieldset>
  );
}

/** A part without its last stroke, or else its last pick. */
function withoutLast(part: Part): Part | null {
  if (part.strokes.length > 0) return { ...part, strokes: part.strokes.slice(0, -1) };
  return part.picks.length > 1 ? { ...part, picks: part.picks.slice(0, -1) } : null;
}

function Slider({
  label,
  min,
  max,
  value,
  onChange,
}: {
  label: string;
  min: number;
  max: number;
  value: number;
  onChange: (value: number) => void;
}) {
  return (
    <label className="flex items-center gap-2 text-tiny text-muted">
      {label}
      <input
        type="range"
        min={min}
        max={max}
        value={value}
        className="accent-primary"
        onChange={(e) => onChange(Number(e.target.value))}
      />
    </label>
  );
}
