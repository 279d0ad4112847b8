import fs from 'node:fs';
import path from 'node:path';

/** What Pennyquay knows; all of it the shop's own words and shapes. */
export interface Item {
  id: string;
  shop: string;
  reference: string | null;
  stage: 'draft' | 'open';
  headline: string;
  story: string;
  keywords: string[];
  maker: string | null;
  deliveryProfile: string | null;
  choices: { name: string; values: string[] }[];
  offers: Offer[];
  pictures: { id: string; caption: string }[];
  createdAt: number;
  openedAt: number | null;
}

export interface Offer {
  sku: string;
  picks: string[];
  price: string;
  /** The price before, shown struck through. */
  before?: string | null;
  available: boolean;
  picture: string | null;
}

export interface DeliveryProfile {
  id: string;
  name: string;
  lanes: { countries: string[]; first: string; further: string }[];
}

export interface Shop {
  id: string;
  slug: string;
  name: string;
  currency: string;
  makers: { id: string; name: string; country: string }[];
  deliveryProfiles: DeliveryProfile[];
}

export interface Voucher {
  shop: string;
  code: string;
  percent: string | null;
  amount: string | null;
  items: string[] | null;
}

interface Held {
  shops: Record<string, Shop>;
  items: Record<string, Item>;
  /** Request keys and what was answered to them. */
  answers: Record<string, { status: number; body: unknown; at: number }>;
  codes: Record<
    string,
    { client: string; redirect: string; challenge: string; shop: string; scopes: string; at: number }
  >;
  /** Tokens that were given out for one consent share its grant. */
  tokens: Record<string, { shop: string; kind: 'access' | 'refresh'; until: number; grant?: string }>;
  /** Discount codes that buyers can type, by shop and code. */
  vouchers?: Record<string, Voucher>;
  /** What was charged to shops, minor units. */
  charges: { shop: string; item: string; what: string; amount: number; at: number }[];
}

const firstShop: Shop = {
  id: 'pq-7041',
  slug: 'brackwater-boathouse',
  name: 'Brackwater Boathouse',
  currency: 'USD',
  makers: [],
  deliveryProfiles: [],
};

/** The shop's own store of data: one JSON file written whole and renamed, and a folder of pictures. */
export function openLedger(folder: string) {
  fs.mkdirSync(path.join(folder, 'pictures'), { recursive: true });
  const file = path.join(folder, 'ledger.json');
  const held: Held = fs.existsSync(file)
    ? (JSON.parse(fs.readFileSync(file, 'utf8')) as Held)
    : {
        shops: { [firstShop.id]: structuredClone(firstShop) },
        items: {},
        answers: {},
        codes: {},
        tokens: {},
        charges: [],
      };
  const picture = (id: string) => path.join(folder, 'pictures', id.replace(/[^a-z0-9-]/g, ''));
  return {
    held,
    save() {
      fs.writeFileSync(`${file}.new`, JSON.stringify(held));
      fs.renameSync(`${file}.new`, file);
    },
    putPicture: (id: string, bytes: Buffer) => fs.writeFileSync(picture(id), bytes),
    readPicture: (id: string): Buffer | null => (fs.existsSync(picture(id)) ? fs.readFileSync(picture(id)) : null),
  };
}

export type Ledger = ReturnType<typeof openLedger>;
