import { invalid } from '../errors';
import type { Step } from './path';
import { ownEntry } from '../own-entry';

const NUMBERS: Record<string, number> = { M: 2, L: 2, H: 1, V: 1, Q: 4, C: 6, Z: 0 };

/** Reads an SVG path of absolute commands (M L H V Q C Z), as outlines of print areas are written. Throws `path-unreadable`. */
export function parsePath(text: string): Step[] {
  const unreadable = () => invalid('path-unreadable', `The outline “${text.slice(0, 40)}” cannot be read.`);
  const parts = text.match(/[A-Za-z]|-?(?:\d+\.?\d*|\.\d+)(?:e-?\d+)?/g) ?? [];
  const steps: Step[] = [];
  let [x, y] = [0, 0];
  for (let i = 0; i < parts.length;) {
    const command = parts[i]!;
    const count = ownEntry(NUMBERS, command);
    if (count === undefined) throw unreadable();
    i += 1;
    if (count === 0) {
      steps.push({ kind: 'Z' });
      continue;
    }
    do {
      const n = parts.slice(i, i + count).map(Number);
      if (n.length < count || n.some((value) => !Number.isFinite(value))) throw unreadable();
      i += count;
      if (command === 'H') x = n[0]!;
      else if (command === 'V') y = n[0]!;
      else [x, y] = [n[count - 2]!, n[count - 1]!];
      if (command === 'Q') steps.push({ kind: 'Q', x1: n[0]!, y1: n[1]!, x, y });
      else if (command === 'C') steps.push({ kind: 'C', x1: n[0]!, y1: n[1]!, x2: n[2]!, y2: n[3]!, x, y });
      else steps.push({ kind: command === 'M' ? 'M' : 'L', x, y });
    } while (i < parts.length && !/[A-Za-z]/.test(parts[i]!));
  }
  return steps;
}
