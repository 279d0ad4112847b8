import type { BlankGroup, OwnBlanks } from './browse-blanks';
import type { VariantFilter } from './browse-variants';
import { COLOR_FAMILIES } from '../catalog/family-colors';
import type { FacetValue, ShelfBlank, ShelfFacets } from './shelf';
import { compareSizes } from '../catalog/size-order';

/** Where the days of the making filter are cut. */
export const MAKING_STEPS = [1, 2, 3, 5, 7] as const;
/** Where the number of print areas is cut. */
export const AREA_STEPS = [2, 3, 4] as const;

class Counter {
  private readonly counts = new Map<string, number>();
  add(value: string) {
    this.counts.set(value, (this.counts.get(value) ?? 0) + 1);
  }
  values(compare: (a: FacetValue, b: FacetValue) => number): FacetValue[] {
    return [...this.counts].map(([value, count]) => ({ value, count })).sort(compare);
  }
}

const byCount = (a: FacetValue, b: FacetValue) => b.count - a.count || a.value.localeCompare(b.value, 'en');
const byNumber = (a: FacetValue, b: FacetValue) => Number(a.value) - Number(b.value);
const familyOrder = (value: string) => (COLOR_FAMILIES as readonly string[]).indexOf(value);

/** Counts how many blanks each choice would leave with all choices of other kinds kept. */
export class FacetCounts {
  private readonly count = {
    kind: new Counter(),
    technique: new Counter(),
    shipsFrom: new Counter(),
    size: new Counter(),
    family: new Counter(),
    material: new Counter(),
    partner: new Counter(),
    areas: new Counter(),
    making: new Counter(),
  };
  private inStock = 0;
  private favorite = 0;
  private used = 0;

  constructor(private readonly own: OwnBlanks) {}

  /** Counts a blank for the groups that it fits but for that one alone: `missed` names it, null for none. */
  add(blank: ShelfBlank, missed: BlankGroup | null, variants: VariantFilter): void {
    if (variants.fitting > 0) this.addBlank(blank, (group) => missed === null || missed === group);
    if (missed === null) this.addVariants(blank, variants);
  }

  private addBlank(blank: ShelfBlank, counts: (group: BlankGroup) => boolean): void {
    const { count, own } = this;
    if (counts('kind')) count.kind.add(blank.kind);
    if (counts('technique')) for (const technique of blank.techniques) count.technique.add(technique);
    if (counts('shipsFrom')) count.shipsFrom.add(blank.shipsFrom);
    if (counts('material')) count.material.add(blank.material);
    if (counts('partner')) count.partner.add(blank.partner.id);
    if (counts('areas')) for (const step of AREA_STEPS) if (blank.areas.length >= step) count.areas.add(String(step));
    if (counts('making'))
      for (const step of MAKING_STEPS) if (blank.makingDays.max <= step) count.making.add(String(step));
    if (counts('favorite') && own.favorites.has(blank.id)) this.favorite += 1;
    if (counts('used') && own.used.has(blank.id)) this.used += 1;
  }

  private addVariants({ sizes, colors }: ShelfBlank, { sizeOpen, colorOpen, stockOpen }: VariantFilter): void {
    for (let i = 0; i < sizes.length; i += 1) if (sizeOpen[i] === 1) this.count.size.add(sizes[i]!);
    // A family is counted once, however many of its colors are there.
    for (let i = 0; i < colors.length; i += 1) {
      const { family } = colors[i]!;
      if (colorOpen[i] === 1 && !colors.some((other, j) => j < i && colorOpen[j] === 1 && other.family === family))
        this.count.family.add(family);
    }
    if (stockOpen) this.inStock += 1;
  }

  facets(): ShelfFacets {
    const { count } = this;
    return {
      kind: count.kind.values((a, b) => a.value.localeCompare(b.value, 'en')),
      technique: count.technique.values(byCount),
      shipsFrom: count.shipsFrom.values(byCount),
      size: count.size.values((a, b) => compareSizes(a.value, b.value)),
      family: count.family.values((a, b) => familyOrder(a.value) - familyOrder(b.value)),
      material: count.material.values(byCount),
      partner: count.partner.values(byCount),
      areas: count.areas.values(byNumber),
      making: count.making.values(byNumber),
      inStock: this.inStock,
      favorite: this.favorite,
      used: this.used,
    };
  }
}
