'use client';

import { ChevronDown } from 'lucide-react';
import { useState } from 'react';
import { toast } from '@/ui/toast';
import { copyArea } from '@/bench/placing';
import { areaTitle, type Blank } from '@/core/catalog/blank';
import type { Layer, ProductDocument } from '@/core/document/document';
import { ownEntry } from '@/core/own-entry';
import { ActionMenu } from '@/ui/ActionMenu';
import { call } from '@/ui/api';
import { Button } from '@/ui/Button';
import { Sheet } from '@/ui/Sheet';
import { useDesk } from '../desk';
import { newId } from '@/ui/ids';

interface OtherProduct {
  readonly id: string;
  readonly title: string;
  readonly document: ProductDocument;
}

/** Brings the layers of another area, mirrored or not, or of another product, to the area in view. */
export function CopyMenu() {
  const desk = useDesk('data', 'designed', 'areaKey', 'geometryId', 'edit');
  const { data, designed: doc, areaKey, geometryId } = desk;
  const [products, setProducts] = useState<readonly OtherProduct[] | null>(null);
  const { blank } = data;
  const to = { key: areaKey, geometryId, geometry: ownEntry(blank.geometries, geometryId)! };
  const others = blank.areas.filter(
    (area) => area.key !== areaKey && Object.keys(ownEntry(doc.areas, area.key)?.layers ?? {}).length > 0,
  );
  const bring = (
    label: string,
    layers: { readonly [id: string]: Layer },
    mirrored: boolean,
    geometries: Blank['geometries'] = blank.geometries,
  ) => {
    // Each layer lies on the geometry that it was placed on; the first one's speaks for all.
    const from = Object.values(layers)[0]?.geometryId ?? '';
    const geometry = ownEntry(geometries, from) ?? to.geometry;
    desk.edit(label, (d) => copyArea(d, { key: '', layers, geometry }, to, mirrored, () => newId()));
  };
  const ask = () => {
    setProducts([]);
    call<{ products: OtherProduct[] }>('GET', '/products').then(
      (answer) => setProducts(answer.products.filter((one) => one.id !== data.product.id && hasLayers(one))),
      (error: Error) => toast(error.message),
    );
  };
  return (
    <>
      <ActionMenu
        anchor="bottom end"
        className="inline-flex min-h-6 items-center justify-center gap-1 text-small text-muted hover:text-ink"
        entries={[
          ...others.flatMap((area) => {
            const title = areaTitle(blank, area).toLocaleLowerCase('en');
            return [false, true].map((mirrored) => ({
              name: `from ${title}${mirrored ? ', mirrored' : ''}`,
              act: () => bring(`Copy from ${title}`, ownEntry(doc.areas, area.key)!.layers, mirrored),
            }));
          }),
          { name: 'from another product …', act: ask },
        ]}
      >
        Copy here <ChevronDown size={13} aria-hidden />
      </ActionMenu>
      <Sheet open={products !== null} onClose={() => setProducts(null)} title="Copy from another product">
        {products?.length === 0 && <p className="text-muted">No other product has a design yet.</p>}
        <ul className="text-small">
          {products?.map((product) => (
            <li key={product.id} className="flex items-baseline gap-3 border-b border-hairline py-1.5">
              <span className="min-w-0 flex-1 truncate font-semibold">{product.title}</span>
              {Object.entries(product.document.areas)
                .filter(([, area]) => Object.keys(area.layers).length > 0)
                .map(([key, area]) => (
                  <Button
                    key={key}
                    onClick={() => {
                      setProducts(null);
                      call<Blank>('GET', `/blanks/${product.document.blankId}`).then(
                        (other) => bring(`Copy from ${product.title}`, area.layers, false, other.geometries),
                        (error: Error) => toast(`Nothing was copied. ${error.message}`),
                      );
                    }}
                  >
                    {key.split('.')[1]}
                  </Button>
                ))}
            </li>
          ))}
        </ul>
      </Sheet>
    </>
  );
}

const hasLayers = (product: OtherProduct): boolean =>
  Object.values(product.document.areas).some((area) => Object.keys(area.layers).length > 0);
