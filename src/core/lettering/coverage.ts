type Range = readonly [from: number, to: number];

const tag = (view: DataView, at: number): string =>
  String.fromCharCode(...[0, 1, 2, 3].map((i) => view.getUint8(at + i)));

/** Where a table of an OpenType file lies; null where it has none. */
function tableAt(view: DataView, name: string): number | null {
  const count = view.getUint16(4);
  for (let i = 0; i < count; i += 1) if (tag(view, 12 + 16 * i) === name) return view.getUint32(12 + 16 * i + 8);
  return null;
}

/** Characters of a subtable of format 4 (OpenType 1.9, cmap): segments of the basic plane. */
function segments(view: DataView, at: number): number[] {
  const found: number[] = [];
  const count = view.getUint16(at + 6) / 2;
  const [ends, starts] = [at + 14, at + 16 + 2 * count];
  const [deltas, offsets] = [starts + 2 * count, starts + 4 * count];
  for (let i = 0; i < count; i += 1) {
    const [first, last] = [view.getUint16(starts + 2 * i), view.getUint16(ends + 2 * i)];
    const [delta, offset] = [view.getUint16(deltas + 2 * i), view.getUint16(offsets + 2 * i)];
    for (let c = first; c <= last && c < 0xffff; c += 1) {
      const inArray = offsets + 2 * i + offset + 2 * (c - first);
      const own = offset === 0 ? c : view.getUint16(inArray);
      const glyph = offset !== 0 && own === 0 ? 0 : (own + delta) & 0xffff;
      if (glyph !== 0) found.push(c);
    }
  }
  return found;
}

/** Characters of a subtable of format 12: groups of any plane. */
function groups(view: DataView, at: number): number[] {
  const found: number[] = [];
  const count = view.getUint32(at + 12);
  for (let i = 0; i < count; i += 1) {
    const from = at + 16 + 12 * i;
    const [first, last, glyph] = [view.getUint32(from), view.getUint32(from + 4), view.getUint32(from + 8)];
    for (let c = first; c <= last; c += 1) if (glyph + c - first !== 0) found.push(c);
  }
  return found;
}

/** The characters that an OpenType file draws, as ranges of code points with both ends included: what its own table says, whatever a list beside it claims. */
export function coverageOf(font: Uint8Array): Range[] {
  const view = new DataView(font.buffer, font.byteOffset, font.byteLength);
  const cmap = tableAt(view, 'cmap');
  if (cmap === null) return [];
  const covered = new Set<number>();
  const count = view.getUint16(cmap + 2);
  for (let i = 0; i < count; i += 1) {
    const [platform, at] = [view.getUint16(cmap + 4 + 8 * i), cmap + view.getUint32(cmap + 8 + 8 * i)];
    if (platform !== 0 && platform !== 3) continue;
    const format = view.getUint16(at);
    for (const c of format === 4 ? segments(view, at) : format === 12 ? groups(view, at) : []) covered.add(c);
  }
  const ranges: [number, number][] = [];
  for (const c of [...covered].sort((a, b) => a - b)) {
    const last = ranges.at(-1);
    if (last && last[1] === c - 1) last[1] = c;
    else ranges.push([c, c]);
  }
  return ranges;
}
