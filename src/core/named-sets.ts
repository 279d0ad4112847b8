/** What is kept under a name to use again: filters of blanks, views of the range, sets of colors, orders of shots. */
export const SET_KINDS = ['blank-filter', 'range-view', 'colors', 'shots'] as const;
export type SetKind = (typeof SET_KINDS)[number];

/** Colors as they are on the blank that they were kept from. */
export interface KeptColor {
  readonly code: string;
  readonly name: string;
  readonly hex: string;
}

/** A shot by what it shows, not by its id: other blanks have shots of their own from the same angle. */
export interface KeptShot {
  readonly angle: string;
  readonly name: string;
  /** The color that it was chosen in; null for a blank without colors. */
  readonly color: string | null;
}

export type SetContent =
  /** The parameters of the address of Blanks, or of the range, without the page in view. */
  { readonly query: string } | { readonly colors: readonly KeptColor[] } | { readonly shots: readonly KeptShot[] };

/** Longest name of a set, most members, and most sets of one kind. */
export const MAX_SET_NAME = 60;
export const MAX_SET_MEMBERS = 60;
export const MAX_SETS = 200;
const MAX_QUERY = 2000;
const MAX_TEXT = 120;

const isText = (value: unknown, most = MAX_TEXT): value is string =>
  typeof value === 'string' && value.length > 0 && value.length <= most && value.isWellFormed();

const isList = <T>(value: unknown, isOne: (one: unknown) => one is T): value is readonly T[] =>
  Array.isArray(value) && value.length > 0 && value.length <= MAX_SET_MEMBERS && value.every(isOne);

const hasKeys = (value: object, keys: readonly string[]): boolean =>
  Object.keys(value).length === keys.length && keys.every((key) => Object.hasOwn(value, key));

const isColor = (one: unknown): one is KeptColor => {
  if (typeof one !== 'object' || one === null || !hasKeys(one, ['code', 'name', 'hex'])) return false;
  const { code, name, hex } = one as Partial<KeptColor>;
  return isText(code) && isText(name) && typeof hex === 'string' && /^#[0-9a-f]{6}$/.test(hex);
};

const isShot = (one: unknown): one is KeptShot => {
  if (typeof one !== 'object' || one === null || !hasKeys(one, ['angle', 'name', 'color'])) return false;
  const { angle, name, color } = one as Partial<KeptShot>;
  return isText(angle) && isText(name) && (color === null || isText(color));
};

/** What is wrong with a set's content, in words after its name; null when it is right. */
export function contentFault(kind: SetKind, content: unknown): string | null {
  if (typeof content !== 'object' || content === null) return 'must be an object';
  const { query, colors, shots } = content as { query?: unknown; colors?: unknown; shots?: unknown };
  switch (kind) {
    case 'blank-filter':
    case 'range-view':
      return hasKeys(content, ['query']) && isText(query, MAX_QUERY)
        ? null
        : `must be { query }, the parameters of an address of up to ${MAX_QUERY} characters`;
    case 'colors':
      return hasKeys(content, ['colors']) && isList(colors, isColor)
        ? null
        : `must be { colors }, 1 to ${MAX_SET_MEMBERS} of { code, name, hex }`;
    case 'shots':
      return hasKeys(content, ['shots']) && isList(shots, isShot)
        ? null
        : `must be { shots }, 1 to ${MAX_SET_MEMBERS} of { angle, name, color }`;
  }
}

const plain = (text: string) => text.trim().toLocaleLowerCase('en');

/**
 * The colors of a blank that a kept set names: by code, else by name. What the blank does not have is given by name, so that it can be said.
 */
export function colorsOfSet(
  set: readonly KeptColor[],
  values: readonly { readonly code: string; readonly name: string }[],
): { readonly codes: readonly string[]; readonly missing: readonly string[] } {
  const found = set.map(
    (kept) =>
      values.find(({ code }) => code === kept.code) ?? values.find(({ name }) => plain(name) === plain(kept.name)),
  );
  return {
    codes: [...new Set(found.flatMap((value) => value?.code ?? []))],
    missing: set.filter((_, i) => !found[i]).map(({ name }) => name),
  };
}

/**
 * The shots of a blank that a kept order names, in its order: of the same angle and name, else the first of the same angle that is not taken
 * yet. A color that is not among the chosen ones becomes the first that is. What the blank has no shot of is given by name.
 */
export function shotsOfSet(
  set: readonly KeptShot[],
  shots: readonly { readonly id: string; readonly angle: string; readonly name: string }[],
  chosenColors: readonly (string | null)[],
): {
  readonly pictures: readonly { readonly shotId: string; readonly color: string | null }[];
  readonly missing: readonly string[];
} {
  const taken = new Set<string>();
  const missing: string[] = [];
  const pictures = set.flatMap((kept) => {
    const color = chosenColors.includes(kept.color) ? kept.color : (chosenColors[0] ?? null);
    const free = shots.filter(({ id, angle }) => angle === kept.angle && !taken.has(`${id}/${color}`));
    const shot = free.find(({ name }) => plain(name) === plain(kept.name)) ?? free[0];
    if (!shot) {
      missing.push(kept.name);
      return [];
    }
    taken.add(`${shot.id}/${color}`);
    return [{ shotId: shot.id, color }];
  });
  return { pictures, missing };
}
