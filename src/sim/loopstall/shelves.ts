import type { Shelf, Trait } from './shop';

const need = (key: string, label: string, choices?: readonly string[]): Trait => ({
  key,
  label,
  needed: true,
  ...(choices ? { choices } : {}),
});
const may = (key: string, label: string, choices?: readonly string[]): Trait => ({
  ...need(key, label, choices),
  needed: false,
});

const CLOTH = need('cloth', 'Cloth', ['Cotton', 'Cotton blend', 'Polyester', 'Linen', 'Wool']);
const AGE = need('age', 'For', ['Adults', 'Children']);
const WASH = need('wash', 'Washing', ['30 degrees', '40 degrees', 'By hand']);
const FIT = need('fit', 'Fit', ['Straight', 'Fitted', 'Loose']);
const STUFF = need('stuff', 'Material', ['Ceramic', 'Enamel', 'Steel', 'Glass']);
const PAPER = need('paper', 'Paper', ['Matte', 'Semi-gloss', 'Cotton']);
const DISH = need('dishwasher', 'Dishwasher safe', ['Yes', 'No']);

/** The tree of places at Loopstall. */
export const SHELVES: readonly Shelf[] = [
  { id: 'wear', name: 'To wear', parent: null },
  { id: 'wear-tops', name: 'Tops', parent: 'wear' },
  { id: 'wear-tops-tee', name: 'T-shirts', parent: 'wear-tops', asks: [CLOTH, AGE, FIT, WASH] },
  { id: 'wear-tops-hood', name: 'Hoodies', parent: 'wear-tops', asks: [CLOTH, AGE, FIT, WASH] },
  { id: 'wear-head', name: 'On the head', parent: 'wear' },
  {
    id: 'wear-head-cap',
    name: 'Caps',
    parent: 'wear-head',
    asks: [CLOTH, need('closure', 'Closure', ['Strap', 'Snap', 'None'])],
  },
  { id: 'carry', name: 'To carry', parent: null },
  {
    id: 'carry-bag',
    name: 'Bags of cloth',
    parent: 'carry',
    asks: [CLOTH, need('handles', 'Handles', ['Long', 'Short', 'Both'])],
  },
  {
    id: 'carry-bottle',
    name: 'Bottles',
    parent: 'carry',
    asks: [STUFF, need('volume', 'Volume in ml'), may('keeps', 'Keeps warm', ['Yes', 'No'])],
  },
  { id: 'table', name: 'At table', parent: null },
  { id: 'table-mug', name: 'Mugs', parent: 'table', asks: [STUFF, DISH, may('volume', 'Volume in ml')] },
  { id: 'table-cup', name: 'Cups', parent: 'table', asks: [STUFF, DISH] },
  { id: 'table-towel', name: 'Kitchen towels', parent: 'table', asks: [CLOTH, WASH] },
  { id: 'home', name: 'At home', parent: null },
  { id: 'home-wall', name: 'On the wall', parent: 'home' },
  { id: 'home-wall-print', name: 'Posters', parent: 'home-wall', asks: [PAPER] },
  {
    id: 'home-wall-framed',
    name: 'Framed pictures',
    parent: 'home-wall',
    asks: [PAPER, need('frame', 'Frame', ['Wood', 'Metal', 'Plastic'])],
  },
  {
    id: 'home-wall-block',
    name: 'Signs and blocks',
    parent: 'home-wall',
    asks: [need('stuff', 'Material', ['Wood', 'Metal', 'Plastic'])],
  },
  {
    id: 'home-cushion',
    name: 'Cushions',
    parent: 'home',
    asks: [CLOTH, need('filling', 'Filling', ['With', 'Without'])],
  },
  { id: 'desk', name: 'On the desk', parent: null },
  { id: 'desk-book', name: 'Notebooks', parent: 'desk', asks: [need('pages', 'Pages'), PAPER] },
  { id: 'desk-sticker', name: 'Stickers', parent: 'desk', asks: [need('outside', 'For outside', ['Yes', 'No'])] },
  { id: 'gift', name: 'Gifts', parent: null },
  { id: 'gift-set', name: 'Gift sets', parent: 'gift', asks: [need('pieces', 'Pieces')] },
];
