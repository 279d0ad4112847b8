import fs from 'node:fs/promises';
import path from 'node:path';
import type { Blank } from '../src/core/catalog/blank';
import type { ShelfItem } from '../src/core/shelf/shelf';
import type { ProductDocument } from '../src/core/document/document';
import { orderAtEnd } from '../src/core/order-key';
import type { ApiClient } from './client';

const ARTWORK = {
  'crossed-blades': 'Crossed Blades',
  tideline: 'Tideline',
  'river-chart': 'River Chart',
  pennants: 'Pennants',
  'dawn-outing': 'Dawn Outing',
};
type ArtworkCode = keyof typeof ARTWORK;

interface Wish {
  readonly blank: string;
  /** Two partners can have a blank of the same name. */
  readonly partner: string;
  readonly title: string;
  readonly description: string;
  readonly tags: readonly string[];
  readonly colors: readonly string[];
  readonly layers: readonly {
    readonly area: string;
    readonly artwork: ArtworkCode;
    readonly xMm: number;
    readonly yMm: number;
    readonly widthMm: number;
    readonly fit: 'keep' | 'fill';
  }[];
  /** Letters and ornaments on top, as the document holds them but for their geometry. */
  readonly more?: readonly { readonly area: string; readonly layer: Record<string, unknown> }[];
  readonly marginPpm: number;
  readonly send: 'live' | 'draft' | null;
}

const place = (xMm: number, yMm: number, widthMm: number) => ({
  xMm,
  yMm,
  widthMm,
  rotationDeg: 0,
  flipX: false,
  flipY: false,
});
const letters = (name: string, text: string, family: string, over: Record<string, unknown>) => ({
  kind: 'text',
  name,
  lettering: {
    text,
    family,
    style: 'regular',
    sizeMm: 20,
    align: 'center',
    tracking: 0,
    lineHeight: 1.15,
    fill: '#f3ead6',
    outline: null,
    arcDeg: 0,
    boxWidthMm: 200,
    boxHeightMm: 30,
    shrinkToMm: 5,
    wrap: false,
    ...over,
  },
});

const WISHES: readonly Wish[] = [
  {
    blank: 'river-poster',
    partner: 'oststern',
    title: 'River Chart, giclée poster',
    description:
      'The tidal reach from the old bridge to the bar, with every mark that a cox steers by.\n\nPrinted on heavy matte cotton paper.',
    tags: ['river', 'chart', 'rowing gift', 'wall art'],
    colors: [],
    layers: [{ area: 'main.sheet', artwork: 'river-chart', xMm: 105, yMm: 148.5, widthMm: 216, fit: 'fill' }],
    marginPpm: 450_000,
    send: null,
  },
  {
    blank: 'galley-mug',
    partner: 'cinder-lane',
    title: 'Tideline mug',
    description: 'Six bands of an incoming tide around a plain white mug. Dishwasher safe.',
    tags: ['mug', 'waves', 'rowing gift'],
    colors: [],
    layers: [{ area: 'main.wrap', artwork: 'tideline', xMm: 100, yMm: 42.5, widthMm: 190, fit: 'fill' }],
    marginPpm: 350_000,
    send: 'draft',
  },
  {
    blank: 'coxswain-cap',
    partner: 'cinder-lane',
    title: 'Cox cap, embroidered',
    description: 'A cotton cap with crossed oars and the cox’s word, sewn in thread.',
    tags: ['cap', 'cox', 'rowing gift'],
    colors: ['channel', 'coal', 'sandbar'],
    layers: [],
    more: [
      {
        area: 'main.front',
        layer: {
          kind: 'ornament',
          name: 'Crossed oars',
          ornament: 'river-crossed-oars',
          color: '#e3c12f',
          placement: place(24, 27.5, 34),
          versions: { sandbar: { tint: '#6f1f2b' } },
        },
      },
      {
        area: 'main.front',
        layer: {
          ...letters('Cox', 'COX', 'graduate', {
            sizeMm: 26,
            boxWidthMm: 62,
            boxHeightMm: 28,
            tracking: 40,
            fill: '#ffffff',
          }),
          placement: place(76, 27.5, 62),
          versions: { sandbar: { tint: '#182a4a' } },
        },
      },
    ],
    marginPpm: 380_000,
    send: null,
  },
  {
    blank: 'towpath-tee',
    partner: 'millrace',
    title: 'Crossed Blades tee',
    description:
      'The boathouse crest on a straight-cut shirt of organic cotton: two sculls, three stars and the tide under them.\n\nPrinted to order.',
    tags: ['rowing', 'regatta', 'crest', 'rowing gift', 'organic cotton'],
    colors: ['estuary', 'oxblood', 'kelp', 'coal'],
    layers: [{ area: 'main.front', artwork: 'crossed-blades', xMm: 152.5, yMm: 174, widthMm: 165, fit: 'keep' }],
    more: [
      {
        area: 'main.front',
        layer: {
          ...letters('Club name', 'BRACKWATER', 'graduate', {
            sizeMm: 22,
            boxWidthMm: 230,
            boxHeightMm: 30,
            tracking: 60,
            arcDeg: 70,
          }),
          placement: place(152.5, 44, 230),
        },
      },
      {
        area: 'main.front',
        layer: {
          ...letters('Motto', 'ebb & flood', 'caveat', { style: 'bold', sizeMm: 24, boxWidthMm: 160, boxHeightMm: 30 }),
          placement: place(152.5, 300, 160),
        },
      },
      {
        area: 'main.front',
        layer: {
          kind: 'ornament',
          name: 'Two waves',
          ornament: 'wave-two',
          color: '#d9a62e',
          placement: place(152.5, 330, 120),
        },
      },
    ],
    marginPpm: 320_000,
    send: 'live',
  },
];

/** How the shop keeps its artwork apart. */
const TAGS: Partial<Record<ArtworkCode, readonly string[]>> = {
  'crossed-blades': ['crest', 'rowing'],
  'river-chart': ['river', 'wall'],
  tideline: ['river', 'pattern'],
};

/** Does with the HTTP API what a seller would: brings artwork, makes products, connects a shop and sends. What is there already stays. */
export async function stockTheShop(api: ApiClient, folder: string): Promise<void> {
  const { products } = await api.get<{ products: unknown[] }>('/products');
  if (products.length > 0) return;
  const artwork = {} as Record<ArtworkCode, { id: string }>;
  for (const [code, name] of Object.entries(ARTWORK) as [ArtworkCode, string][])
    artwork[code] = await api.upload(await fs.readFile(path.join(folder, `${code}.svg`)), name);
  for (const [code, tags] of Object.entries(TAGS)) {
    const id = artwork[code as ArtworkCode]?.id;
    if (id) await api.call('PATCH', `/artwork/${id}`, { tags });
  }

  const store = await api.connect('pennyquay');
  const { partners } = await api.get<{ partners: { id: string; code: string }[] }>('/partners');
  for (const { id: partnerId } of partners) await api.post(`/stores/${store.id}/partners`, { partnerId });
  const { blanks } = await api.get<{ blanks: ShelfItem[] }>('/blanks?limit=200');
  const blankOf = (wish: Wish) => {
    const partner = partners.find((one) => one.code === wish.partner)!;
    return api.get<Blank>(
      `/blanks/${blanks.find((blank) => blank.code === wish.blank && blank.partner.id === partner.id)!.id}`,
    );
  };

  const made = new Map<string, { id: string; revision: number }>();
  for (const wish of WISHES) made.set(wish.blank, await makeProduct(api, await blankOf(wish), wish, artwork));
  for (const wish of WISHES) {
    if (!wish.send) continue;
    const { jobId } = await api.post<{ jobId: string }>(`/products/${made.get(wish.blank)!.id}/listings`, {
      storeId: store.id,
      visibility: wish.send,
    });
    const job = await api.job(jobId);
    if (job.state !== 'done') throw new Error(`${wish.title} was not sent: ${job.error?.message}`);
  }
  await api.call('PUT', '/pricing/settings', {
    rateMarginPpm: 0,
    taxes: [],
    discounts: {},
    mix: [
      { country: 'US', weight: 5 },
      { country: 'GB', weight: 3 },
      { country: 'DE', weight: 1 },
    ],
  });
  await api.post('/pricing/rules', {
    name: 'Boathouse goods',
    rule: { aim: { kind: 'margin', ppm: 380_000 }, ending: '.99', shipping: 'charged', differences: {} },
    forNew: false,
  });
  // Something to do on the first day: the mug's price was raised here and not yet in the shop.
  const mug = made.get('galley-mug')!;
  await api.patch(mug.id, mug.revision, [
    { op: 'replace', path: '/price/base/aim', value: { kind: 'margin', ppm: 380_000 } },
  ]);
}

async function makeProduct(
  api: ApiClient,
  blank: Blank,
  wish: Wish,
  artwork: Record<ArtworkCode, { id: string }>,
): Promise<{ id: string; revision: number }> {
  const product = await api.post<{ id: string; revision: number; document: ProductDocument }>('/products', {
    blankId: blank.id,
    title: wish.title,
  });
  const areas: Record<string, { layers: Record<string, unknown> }> = {};
  for (const [index, { area, artwork: code, fit, ...place }] of wish.layers.entries()) {
    const geometryId = blank.areas.find((a) => a.key === area)!.geometries[0]!.geometryId;
    const layer = {
      kind: 'artwork',
      order: orderAtEnd({}),
      name: ARTWORK[code],
      artworkId: artwork[code].id,
      geometryId,
      fit,
      overrides: {},
      hidden: false,
      locked: false,
      placement: { ...place, rotationDeg: 0, flipX: false, flipY: false },
    };
    (areas[area] ??= { layers: {} }).layers[`l${index}`] = layer;
  }
  for (const [index, { area, layer }] of (wish.more ?? []).entries()) {
    const geometryId = blank.areas.find((a) => a.key === area)!.geometries[0]!.geometryId;
    const layers = (areas[area] ??= { layers: {} }).layers as Record<string, { order: string }>;
    layers[`m${index}`] = {
      order: orderAtEnd(layers),
      geometryId,
      fit: 'keep',
      overrides: {},
      hidden: false,
      locked: false,
      ...layer,
    } as never;
  }
  const variants = Object.fromEntries(
    blank.variants
      .filter((v) => wish.colors.length === 0 || wish.colors.includes(v.values.color ?? ''))
      .map((v) => [v.key, {}]),
  );
  let order: string | null = null;
  const tags = Object.fromEntries(
    wish.tags.map((text, i) => [
      `t${i}`,
      { text, order: (order = orderAtEnd(order === null ? {} : { last: { order } })) },
    ]),
  );
  const { revision } = await api.patch<{ revision: number }>(product.id, product.revision, [
    { op: 'replace', path: '/areas', value: areas },
    { op: 'replace', path: '/variants', value: variants },
    { op: 'replace', path: '/words/base/description', value: wish.description },
    { op: 'replace', path: '/words/base/tags', value: tags },
    { op: 'replace', path: '/price/base/aim', value: { kind: 'margin', ppm: wish.marginPpm } },
    { op: 'replace', path: '/price/base/ending', value: '.99' },
  ]);
  return { id: product.id, revision };
}
