import fs from 'node:fs/promises';
import path from 'node:path';
import { firstPlacement } from '../src/bench/placing';
import { luminance, parseHex } from '../src/core/artwork/color';
import { colorOption, type Blank } from '../src/core/catalog/blank';
import type { ShelfItem } from '../src/core/shelf/shelf';
import { orderAtEnd } from '../src/core/order-key';
import type { ApiClient } from './client';

/** Artwork of the demo beyond the first five, by its file: name and tags. */
const MORE_ARTWORK = {
  'three-gulls.svg': ['Three Gulls', ['birds', 'river']],
  'slipway-lantern.svg': ['Slipway Lantern', ['boathouse']],
  'mooring-knot.svg': ['Mooring Knot', ['rope', 'boathouse']],
  'harbour-badge.svg': ['Harbour Badge', ['crest', 'river']],
  'buoy-field.svg': ['Buoy Field', ['pattern']],
  'night-outing.svg': ['Night Outing', ['wall', 'rowing']],
  'heron.svg': ['Heron', ['birds', 'wall']],
  'cox-orders.svg': ['Cox’s Orders', ['words', 'rowing']],
  'morning-mist.jpg': ['Morning Mist', ['photo', 'wall']],
  'tide-wash.png': ['Tide Wash', ['river']],
} as const;

type Ground = 'dark' | 'light' | 'any';

/** A product of the range: which artwork on which blank of which partner, and on what ground it is seen. */
type Wish = readonly [artwork: string, blank: string, partner: string, title: string, ground: Ground, says: string];

const WISHES: readonly Wish[] = [
  ['Three Gulls', 'towpath-tee', 'millrace', 'Three Gulls tee', 'dark', 'Gulls over three bands of tide.'],
  ['Harbour Badge', 'towpath-tee', 'cinder-lane', 'Harbour Badge tee', 'light', 'The round badge of the harbor.'],
  ['Heron', 'towpath-tee', 'millrace', 'Heron tee', 'light', 'The heron that waits by the weir.'],
  ['Slipway Lantern', 'launch-tee', 'millrace', 'Lantern tee for kids', 'light', 'A lantern for early outings.'],
  ['Harbour Badge', 'launch-tee', 'millrace', 'Badge tee for kids', 'any', 'The harbor badge in small sizes.'],
  ['Cox’s Orders', 'slipway-hoodie', 'millrace', 'Cox’s Orders hoodie', 'light', 'What a cox says, and in what order.'],
  ['Crossed Blades', 'slipway-hoodie', 'cinder-lane', 'Crossed Blades hoodie', 'dark', 'The boathouse crest, warm.'],
  ['Mooring Knot', 'landing-tote', 'millrace', 'Mooring Knot tote', 'any', 'A bag for rope and everything else.'],
  ['Heron', 'landing-tote', 'oststern', 'Heron tote', 'light', 'The heron, for the market.'],
  ['Buoy Field', 'galley-mug', 'oststern', 'Buoy Field mug', 'any', 'Buoys all around.'],
  ['Morning Mist', 'galley-mug', 'cinder-lane', 'Morning Mist mug', 'any', 'The reach before six.'],
  ['Tideline', 'bailer-cup', 'oststern', 'Tideline cup', 'any', 'An enamel cup that the tide runs around.'],
  ['Three Gulls', 'bailer-cup', 'oststern', 'Three Gulls cup', 'any', 'Three gulls and a swell.'],
  ['Buoy Field', 'long-reach-bottle', 'cinder-lane', 'Buoy Field bottle', 'any', 'A bottle that is found again.'],
  ['Night Outing', 'river-poster', 'millrace', 'Night Outing poster', 'any', 'A pair under the moon.'],
  ['Morning Mist', 'framed-print', 'oststern', 'Morning Mist, framed', 'any', 'Ridges in haze over still water.'],
  ['Dawn Outing', 'rigger-logbook', 'millrace', 'Dawn Outing logbook', 'any', 'For outings, weather and times.'],
  ['Pennants', 'boathouse-cushion', 'cinder-lane', 'Pennants cushion', 'any', 'All the club’s flags on one side.'],
  ['Harbour Badge', 'sticker-sheet', 'oststern', 'Harbour Badge stickers', 'any', 'For blades, bottles and boxes.'],
  ['Buoy Field', 'galley-towel', 'oststern', 'Buoy Field towel', 'any', 'Dries what the tide brought.'],
  ['Tideline', 'towpath-tee', 'cinder-lane', 'Tideline tee for slow mornings', 'light', 'Six bands of tide.'],
  ['Mooring Knot', 'towpath-tee', 'millrace', 'Mooring Knot tee', 'light', 'A knot that holds, and comes undone.'],
  ['Slipway Lantern', 'galley-mug', 'oststern', 'Slipway Lantern mug for early crews', 'any', 'Lit before the sun is.'],
  ['Heron', 'river-poster', 'oststern', 'Heron by the weir, poster', 'any', 'He has waited since six.'],
  ['Three Gulls', 'landing-tote', 'millrace', 'Three Gulls tote', 'light', 'For everything that gulls would steal.'],
  [
    'Crossed Blades',
    'galley-mug',
    'cinder-lane',
    'CREST mug of the boathouse',
    'any',
    'Guaranteed to be found in the kitchen.',
  ],
  ['Night Outing', 'towpath-tee', 'millrace', 'Night Outing tee', 'dark', 'A pair under the moon, on cloth.'],
  ['Harbour Badge', 'slipway-hoodie', 'millrace', 'Harbour Badge hoodie for cold boats', 'dark', 'The badge, warm.'],
  ['Tide Wash', 'boathouse-cushion', 'cinder-lane', 'Tide Wash cushion', 'any', 'The color of the water at dusk.'],
  ['Buoy Field', 'sticker-sheet', 'oststern', 'Buoy Field stickers, a sheet of them', 'any', 'Find your box again.'],
  ['Slipway Lantern', 'landing-tote', 'oststern', 'Lantern tote', 'any', 'Carries breakfast to the slip.'],
  [
    'River Chart',
    'framed-print',
    'oststern',
    'River Chart, framed for the hall',
    'any',
    'Every mark from the bridge to the bar.',
  ],
];

/** Colors of a good that are as dark or light as the artwork wants them. */
const COLORS = 3;

function colorsOn(blank: Blank, ground: Ground): readonly string[] | null {
  const option = colorOption(blank);
  if (!option) return null;
  const light = (hex: string) => luminance(parseHex(hex));
  const fits = option.values.filter(({ hex }) =>
    ground === 'any' ? true : ground === 'dark' ? light(hex!) < 0.1 : light(hex!) > 0.35,
  );
  return (fits.length > 0 ? fits : option.values).slice(0, COLORS).map(({ code }) => code);
}

interface Uploaded {
  readonly id: string;
  readonly name: string;
  readonly facts: { readonly widthPx: number; readonly heightPx: number } | null;
}

/** Makes the rest of the seller's range with the HTTP API: more artwork, and thirty-two products of all kinds. What is there already stays. */
export async function fillTheRange(api: ApiClient, folder: string): Promise<number> {
  const { total } = await api.get<{ total: number }>('/products?limit=1');
  if (total >= WISHES.length) return 0;
  const known = await api.get<{ artwork: Uploaded[] }>('/artwork?limit=200');
  const artwork = new Map(known.artwork.map((one) => [one.name, one]));
  for (const [file, [name, tags]] of Object.entries(MORE_ARTWORK)) {
    if (artwork.has(name)) continue;
    const { id } = await api.upload(await fs.readFile(path.join(folder, file)), name);
    await api.call('PATCH', `/artwork/${id}`, { tags });
    artwork.set(name, await api.get<Uploaded>(`/artwork/${id}`));
  }
  const { partners } = await api.get<{ partners: { id: string; code: string }[] }>('/partners');
  const { blanks } = await api.get<{ blanks: ShelfItem[] }>('/blanks?limit=200');
  for (const wish of WISHES) {
    const partner = partners.find(({ code }) => code === wish[2])!;
    const item = blanks.find((one) => one.code === wish[1] && one.partner.id === partner.id)!;
    await makeProduct(api, await api.get<Blank>(`/blanks/${item.id}`), wish, artwork.get(wish[0])!);
  }
  return WISHES.length;
}

async function makeProduct(
  api: ApiClient,
  blank: Blank,
  [, , , title, ground, says]: Wish,
  art: Uploaded,
): Promise<void> {
  const product = await api.post<{ id: string; revision: number }>('/products', { blankId: blank.id, title });
  const [area] = blank.areas;
  const { geometryId } = area!.geometries[0]!;
  const size = { id: art.id, name: art.name, widthPx: art.facts!.widthPx, heightPx: art.facts!.heightPx };
  const { placement, fit } = firstPlacement(size, blank.geometries[geometryId]!);
  const layer = {
    kind: 'artwork',
    order: orderAtEnd({}),
    name: art.name,
    artworkId: art.id,
    geometryId,
    fit,
    overrides: {},
    hidden: false,
    locked: false,
    placement,
  };
  const colors = colorsOn(blank, ground);
  const code = colorOption(blank)?.code ?? '';
  const variants = Object.fromEntries(
    blank.variants
      .filter(({ ended, values }) => !ended && (colors === null || colors.includes(values[code] ?? '')))
      .map(({ key }) => [key, {}]),
  );
  await api.patch(product.id, product.revision, [
    { op: 'replace', path: '/areas', value: { [area!.key]: { layers: { l0: layer } } } },
    { op: 'replace', path: '/variants', value: variants },
    { op: 'replace', path: '/words/base/description', value: `${says}\n\nMade to order for Brackwater Boathouse.` },
    { op: 'replace', path: '/price/base/aim', value: { kind: 'margin', ppm: 380_000 } },
    { op: 'replace', path: '/price/base/ending', value: '.99' },
  ]);
}
