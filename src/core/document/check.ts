import { THREADS } from '../embroidery/palette';
import { FITS } from '../geometry/fit';
import { FAMILIES, FONT_STYLES } from '../lettering/families';
import { ALIGNMENTS, MAX_SIZE_MM, MAX_TEXT, MIN_SIZE_MM } from '../lettering/text';
import { ORNAMENTS } from '../ornaments/ornaments';
import { isEnding, WAYS } from '../pricing/rounding';
import { MAX_RETAIL_MINOR } from '../pricing/money';
import { jsonSize, unprintable } from '../json/bounds';
import { MIN_OPACITY, type ProductDocument } from './document';
import { MAX_DOCUMENT_SIZE } from './patch';
import { MAX_LISTINGS } from './split';
import { parseGtin } from '../variants/gtin';
import { MAX_SKU } from '../variants/sku';
import { ownEntry } from '../own-entry';

/** What is wrong with a document and where (JSON pointer, RFC 6901). */
export interface DocumentFault {
  readonly path: string;
  readonly says: string;
}

type Check = (value: unknown, path: string, faults: DocumentFault[]) => void;

const fault = (path: string, says: string): DocumentFault => ({ path: path || '/', says });
/** Faults that are told; who made more has read enough. */
export const MAX_FAULTS = 50;
const note = (faults: DocumentFault[], one: DocumentFault): void => {
  if (faults.length < MAX_FAULTS) faults.push(one);
};
const escape = (key: string): string => key.slice(0, 60).replace(/~/g, '~0').replace(/\//g, '~1');

const text =
  (maxLength: number): Check =>
  (value, path, faults) => {
    if (typeof value !== 'string') note(faults, fault(path, 'must be text'));
    else if (value.length > maxLength) note(faults, fault(path, `is longer than ${maxLength} characters`));
    else if (!value.isWellFormed()) note(faults, fault(path, 'holds half of a character (a lone surrogate)'));
    else if (unprintable(value)) note(faults, fault(path, 'holds a control character; remove it'));
  };

/** Text without line breaks: it stands in tables, file names and shops' forms. */
const line =
  (maxLength: number): Check =>
  (value, path, faults) => {
    text(maxLength)(value, path, faults);
    if (typeof value === 'string' && value.length <= maxLength && /[\t\r\n\u007f]/.test(value))
      note(faults, fault(path, 'must be one line without tabs'));
  };

/** A line that says something: a shop shows it as the name of a choice. */
const named =
  (maxLength: number): Check =>
  (value, path, faults) => {
    line(maxLength)(value, path, faults);
    if (typeof value === 'string' && value.trim() === '') note(faults, fault(path, 'cannot be empty'));
  };

const number =
  (min: number, max: number): Check =>
  (value, path, faults) => {
    if (typeof value !== 'number' || !Number.isFinite(value)) note(faults, fault(path, 'must be a number'));
    else if (value < min || value > max) note(faults, fault(path, `must be from ${min} to ${max}`));
  };

const whole =
  (min: number, max: number): Check =>
  (value, path, faults) => {
    if (!Number.isInteger(value)) note(faults, fault(path, 'must be a whole number'));
    else number(min, max)(value, path, faults);
  };

const flag: Check = (value, path, faults) => {
  if (typeof value !== 'boolean') note(faults, fault(path, 'must be true or false'));
};

const oneOf =
  (...allowed: readonly unknown[]): Check =>
  (value, path, faults) => {
    if (!allowed.includes(value)) note(faults, fault(path, `must be one of ${allowed.join(', ')}`));
  };

const orNull =
  (check: Check): Check =>
  (value, path, faults) => {
    if (value !== null) check(value, path, faults);
  };

function isObject(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

const optionalMark = Symbol('optional');
type Shape = { [key: string]: Check | { [optionalMark]: Check } };
const optional = (check: Check) => ({ [optionalMark]: check });

const object =
  (shape: Shape): Check =>
  (value, path, faults) => {
    if (!isObject(value)) return void note(faults, fault(path, 'must be an object'));
    for (const key of Object.keys(value))
      if (!Object.hasOwn(shape, key)) note(faults, fault(`${path}/${escape(key)}`, 'is not known here'));
    for (const [key, entry] of Object.entries(shape)) {
      const check = typeof entry === 'function' ? entry : entry[optionalMark];
      if (ownEntry(value, key) === undefined) {
        if (typeof entry === 'function') note(faults, fault(`${path}/${key}`, 'is missing'));
      } else check(ownEntry(value, key), `${path}/${key}`, faults);
    }
  };

/** Names that every object inherits: as keys they would be found where they were never put. */
const INHERITED: ReadonlySet<string> = new Set(Object.getOwnPropertyNames(Object.prototype));

const keyed =
  (keyPattern: RegExp, max: number, check: Check): Check =>
  (value, path, faults) => {
    if (!isObject(value)) return void note(faults, fault(path, 'must be an object'));
    const entries = Object.entries(value);
    if (entries.length > max) return note(faults, fault(path, `holds more than ${max} entries`));
    for (const [key, entry] of entries) {
      if (!keyPattern.test(key) || INHERITED.has(key))
        note(faults, fault(`${path}/${escape(key)}`, 'has a key that cannot be used here'));
      else check(entry, `${path}/${escape(key)}`, faults);
    }
  };

const ID = /^[A-Za-z0-9_-]{1,40}$/;
const AREA_KEY = /^[a-z0-9-]{1,30}\.[a-z0-9-]{1,30}$/;
const VARIANT_KEY = /^(?=.{1,200}$)[a-z0-9-]+=[a-z0-9.-]+(;[a-z0-9-]+=[a-z0-9.-]+){0,7}$/;
const id = (value: unknown, path: string, faults: DocumentFault[]) => {
  if (typeof value !== 'string' || !ID.test(value) || INHERITED.has(value)) note(faults, fault(path, 'must be an id'));
};
const order: Check = (value, path, faults) => {
  if (typeof value !== 'string' || !/^[A-Za-z0-9]{1,80}$/.test(value))
    note(faults, fault(path, 'must be an order key'));
};

const placement = object({
  xMm: number(-10_000, 10_000),
  yMm: number(-10_000, 10_000),
  widthMm: number(0.1, 10_000),
  rotationDeg: number(-180, 180),
  flipX: flag,
  flipY: flag,
});

const color: Check = (value, path, faults) => {
  if (typeof value !== 'string' || !/^#[0-9a-f]{6}$/.test(value))
    note(faults, fault(path, 'must be a color such as #2d4a53'));
};
const CODE = /^[a-z0-9-]{1,60}$/;
const lettering = object({
  text: text(MAX_TEXT),
  family: oneOf(...FAMILIES.map((family) => family.code)),
  style: oneOf(...FONT_STYLES),
  sizeMm: number(MIN_SIZE_MM, MAX_SIZE_MM),
  align: oneOf(...ALIGNMENTS),
  tracking: number(-200, 2000),
  lineHeight: number(0.5, 4),
  fill: color,
  outline: orNull(object({ color, widthMm: number(0, 50) })),
  arcDeg: number(-350, 350),
  boxWidthMm: number(1, 10_000),
  boxHeightMm: number(1, 10_000),
  shrinkToMm: orNull(number(MIN_SIZE_MM, MAX_SIZE_MM)),
  wrap: flag,
});

const placed = {
  order,
  name: line(120),
  geometryId: id,
  placement,
  fit: oneOf(...FITS),
  overrides: keyed(ID, 40, placement),
  focus: optional(object({ x: number(0, 1), y: number(0, 1) })),
  versions: optional(keyed(CODE, 60, object({ artworkId: optional(id), tint: optional(color) }))),
  opacity: optional(number(MIN_OPACITY, 1)),
  hidden: flag,
  locked: flag,
};
const layers: { readonly [kind: string]: Check } = {
  artwork: object({ kind: oneOf('artwork'), artworkId: id, ...placed }),
  text: object({ kind: oneOf('text'), lettering, ...placed }),
  ornament: object({ kind: oneOf('ornament'), ornament: oneOf(...ORNAMENTS.map((one) => one.code)), color, ...placed }),
};
const layer: Check = (value, path, faults) => {
  const kind = isObject(value) ? value.kind : undefined;
  const check = typeof kind === 'string' && Object.hasOwn(layers, kind) ? ownEntry(layers, kind) : undefined;
  if (check) check(value, path, faults);
  else note(faults, fault(`${path}/kind`, `must be one of ${Object.keys(layers).join(', ')}`));
};
const THREAD_CODES: ReadonlySet<string> = new Set(THREADS.map((thread) => thread.code));
const threads = object({
  pinned: (value, path, faults) => {
    keyed(CODE, 60, object({ order }))(value, path, faults);
    for (const code of Object.keys(isObject(value) ? value : {}))
      if (!THREAD_CODES.has(code)) note(faults, fault(`${path}/${escape(code)}`, 'is no thread'));
  },
  swaps: keyed(CODE, 60, oneOf(...THREAD_CODES)),
});

const gtin: Check = (value, path, faults) => {
  try {
    if (typeof value !== 'string' || parseGtin(value) !== value)
      note(faults, fault(path, 'must be digits without spaces'));
  } catch (error) {
    note(faults, fault(path, `is no GTIN: ${(error as Error).message}`));
  }
};

const aim: Check = (value, path, faults) => {
  const kind = isObject(value) ? value.kind : undefined;
  if (kind === 'margin') object({ kind: oneOf('margin'), ppm: whole(-10_000_000, 999_999) })(value, path, faults);
  else if (kind === 'markup')
    object({ kind: oneOf('markup'), ppm: whole(-1_000_000, 100_000_000) })(value, path, faults);
  else if (kind === 'profit')
    object({ kind: oneOf('profit'), amountMinor: whole(-MAX_RETAIL_MINOR, MAX_RETAIL_MINOR) })(value, path, faults);
  else
    object({ kind: oneOf('retail', 'profit', 'margin', 'markup'), amountMinor: whole(0, MAX_RETAIL_MINOR) })(
      value,
      path,
      faults,
    );
};

const COUNTRY = /^[A-Z]{2}$/;
const ending: Check = (value, path, faults) => {
  if (!isEnding(value)) note(faults, fault(path, 'must be none, ladder, or up to four digits such as .99, 4.99 or 80'));
};

const pricePlan = (required: boolean): Check => {
  const maybe = required ? (check: Check) => check : optional;
  return object({
    aim: maybe(aim),
    variants: maybe(keyed(VARIANT_KEY, 2000, aim)),
    ending: maybe(ending),
    way: optional(oneOf(...WAYS)),
    leastMinor: optional(orNull(whole(1, MAX_RETAIL_MINOR))),
    mostMinor: optional(orNull(whole(1, MAX_RETAIL_MINOR))),
    shipping: maybe(oneOf('charged', 'folded')),
    freeFromMinor: optional(orNull(whole(1, MAX_RETAIL_MINOR))),
    insert: optional(orNull(line(60))),
    ...(required
      ? {}
      : {
          differencePpm: optional(whole(-900_000, 9_000_000)),
          notTo: optional(keyed(COUNTRY, 100, oneOf(true))),
        }),
  });
};

/** Bundles of a product, products of a bundle beside it, and how many of each. */
const MAX_BUNDLES = { bundles: 6, items: 6, quantity: 20 } as const;
/** At the end of variants' keys, and of SKUs. */
const BUNDLE_ID = /^[a-z0-9]{1,20}$/;
const variantKeyText: Check = (value, path, faults) => {
  if (typeof value !== 'string' || !VARIANT_KEY.test(value)) note(faults, fault(path, 'must be the key of a variant'));
};
const bundleItem = object({
  productId: id,
  variantKey: variantKeyText,
  quantity: whole(1, MAX_BUNDLES.quantity),
  order,
});
const bundles = object({
  option: named(60),
  alone: named(60),
  entries: keyed(
    BUNDLE_ID,
    MAX_BUNDLES.bundles,
    object({
      name: named(60),
      items: keyed(ID, MAX_BUNDLES.items, bundleItem),
      aim,
      stores: optional(keyed(ID, 200, aim)),
      order,
    }),
  ),
});

const tags = keyed(ID, 60, object({ text: line(200), order }));
const highlights = keyed(ID, 20, object({ text: line(1000), order }));
const words = (required: boolean): Check => {
  const maybe = required ? (check: Check) => check : optional;
  return object({
    title: maybe(line(500)),
    description: maybe(text(20_000)),
    tags: maybe(tags),
    highlights: optional(highlights),
    pageAddress: optional(line(200)),
    seoTitle: optional(line(500)),
    seoDescription: optional(line(2000)),
  });
};

const anyPicture = object({
  shotId: orNull(id),
  imageId: optional(id),
  color: orNull(line(60)),
  alt: optional(text(500)),
  main: optional(flag),
  order,
});
const picture: Check = (value, path, faults) => {
  anyPicture(value, path, faults);
  if (isObject(value) && (value.shotId === null) !== (typeof value.imageId === 'string'))
    note(faults, fault(path, 'must name a shot or a photograph, and not both'));
};
const pictures = keyed(ID, 200, picture);

const LISTING_NUMBER = /^[1-9]\d?$/;
const VALUE_CODE = /^[a-z0-9.-]{1,60}$/;
const optionCode: Check = (value, path, faults) => {
  if (typeof value !== 'string' || !CODE.test(value)) note(faults, fault(path, 'must be the code of an option'));
};

const document = object({
  format: oneOf(1),
  blankId: id,
  areas: keyed(AREA_KEY, 60, object({ layers: keyed(ID, 200, layer), threads: optional(threads) })),
  variants: keyed(VARIANT_KEY, 2000, object({ sku: optional(line(MAX_SKU)), gtin: optional(gtin) })),
  leftOut: optional(keyed(ID, 200, keyed(VARIANT_KEY, 2000, oneOf(true)))),
  shades: optional(keyed(ID, 200, keyed(VALUE_CODE, 200, named(120)))),
  split: optional(
    keyed(
      ID,
      200,
      object({
        option: optionCode,
        listings: keyed(
          LISTING_NUMBER,
          MAX_LISTINGS,
          object({ values: optional(keyed(VALUE_CODE, 200, oneOf(true))), title: optional(named(500)) }),
        ),
      }),
    ),
  ),
  skuPattern: optional(line(120)),
  whenOut: optional(oneOf('shown', 'hidden')),
  optionOrder: optional(keyed(CODE, 8, keyed(CODE, 200, object({ order })))),
  price: object({
    currency: (value, path, faults) => {
      if (typeof value !== 'string' || !/^[A-Z]{3}$/.test(value)) note(faults, fault(path, 'must be a currency code'));
    },
    base: pricePlan(true),
    stores: keyed(ID, 200, pricePlan(false)),
  }),
  bundles: optional(bundles),
  words: object({ base: words(true), stores: keyed(ID, 200, words(false)) }),
  pictures: object({ base: pictures, stores: keyed(ID, 200, pictures) }),
});

/** Characters of all texts of a design: each is set whenever the design is judged. */
const MAX_LETTERS = 20_000;

const lettersIn = ({ areas }: ProductDocument): number =>
  Object.values(areas)
    .flatMap(({ layers: own }) => Object.values(own))
    .reduce((sum, one) => sum + (one.kind === 'text' ? one.lettering.text.length : 0), 0);

/** Faults of a product document's shape, the first fifty; none means it is a ProductDocument. Whether ids exist is the caller's to check. */
export function checkDocument(value: unknown): DocumentFault[] {
  if (jsonSize(value, MAX_DOCUMENT_SIZE).size > MAX_DOCUMENT_SIZE)
    return [fault('', `is larger than ${MAX_DOCUMENT_SIZE / 1024 / 1024} million characters`)];
  const faults: DocumentFault[] = [];
  document(value, '', faults);
  if (faults.length === 0 && lettersIn(value as ProductDocument) > MAX_LETTERS)
    note(faults, fault('/areas', `hold more than ${MAX_LETTERS} characters of text in all; a design needs fewer`));
  return faults;
}
