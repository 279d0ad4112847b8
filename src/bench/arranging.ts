import type { Box } from '@/core/geometry/box';

export const ALIGN_EDGES = ['left', 'center', 'right', 'top', 'middle', 'bottom'] as const;
export type AlignEdge = (typeof ALIGN_EDGES)[number];

/** How far each box moves, mm, in the order given. */
export type Shift = { readonly dx: number; readonly dy: number };

/** Aligns boxes by an edge or a middle with `within`: a single one with the area, several with the box around them. */
export function alignBoxes(boxes: readonly Box[], edge: AlignEdge, within: Box): Shift[] {
  return boxes.map((box) => {
    switch (edge) {
      case 'left':
        return { dx: within.left - box.left, dy: 0 };
      case 'right':
        return { dx: within.right - box.right, dy: 0 };
      case 'center':
        return { dx: (within.left + within.right - box.left - box.right) / 2, dy: 0 };
      case 'top':
        return { dx: 0, dy: within.top - box.top };
      case 'bottom':
        return { dx: 0, dy: within.bottom - box.bottom };
      case 'middle':
        return { dx: 0, dy: (within.top + within.bottom - box.top - box.bottom) / 2 };
    }
  });
}

/** Spreads three or more boxes so that the gaps between them are the same; the first and the last stay. */
export function distributeBoxes(boxes: readonly Box[], axis: 'x' | 'y'): Shift[] {
  const [low, high] = axis === 'x' ? (['left', 'right'] as const) : (['top', 'bottom'] as const);
  const shifts = boxes.map((): Shift => ({ dx: 0, dy: 0 }));
  if (boxes.length < 3) return shifts;
  const order = boxes
    .map((_, i) => i)
    .sort((a, b) => boxes[a]![low] + boxes[a]![high] - boxes[b]![low] - boxes[b]![high]);
  const first = boxes[order[0]!]!;
  const last = boxes[order.at(-1)!]!;
  const filled = boxes.reduce((sum, box) => sum + box[high] - box[low], 0);
  const gap = (last[high] - first[low] - filled) / (boxes.length - 1);
  let at = first[low];
  for (const i of order) {
    const by = at - boxes[i]![low];
    shifts[i] = axis === 'x' ? { dx: by, dy: 0 } : { dx: 0, dy: by };
    at += boxes[i]![high] - boxes[i]![low] + gap;
  }
  return shifts;
}

/** The box around all. */
export const boxAround = (boxes: readonly Box[]): Box => ({
  left: Math.min(...boxes.map((box) => box.left)),
  top: Math.min(...boxes.map((box) => box.top)),
  right: Math.max(...boxes.map((box) => box.right)),
  bottom: Math.max(...boxes.map((box) => box.bottom)),
});
