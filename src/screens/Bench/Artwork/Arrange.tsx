'use client';

import {
  AlignCenterHorizontal,
  AlignCenterVertical,
  AlignEndHorizontal,
  AlignEndVertical,
  AlignHorizontalSpaceAround,
  AlignStartHorizontal,
  AlignStartVertical,
  AlignVerticalSpaceAround,
} from 'lucide-react';
import { alignBoxes, boxAround, distributeBoxes, type AlignEdge, type Shift } from '@/bench/arranging';
import { placeLayer } from '@/bench/placing';
import { trimBox } from '@/core/geometry/area';
import { placedBox, placementMatrix } from '@/core/geometry/placement';
import { ownEntry } from '@/core/own-entry';
import { IconButton } from '@/ui/IconButton';
import { useDesk } from '../desk';
import { aspectOf, placementInView } from './placed';

const EDGES: readonly (readonly [AlignEdge, string, typeof AlignStartVertical])[] = [
  ['left', 'Align left edges', AlignStartVertical],
  ['center', 'Align middles across', AlignCenterVertical],
  ['right', 'Align right edges', AlignEndVertical],
  ['top', 'Align top edges', AlignStartHorizontal],
  ['middle', 'Align middles down', AlignCenterHorizontal],
  ['bottom', 'Align bottom edges', AlignEndHorizontal],
];

/** Aligns and spreads the selected layers: one with the area, several among themselves. */
export function Arrange() {
  const desk = useDesk('areaKey', 'geometryId', 'designed', 'data', 'selection', 'edit', 'artworkSizes');
  const { areaKey, geometryId, designed: doc, data, selection } = desk;
  const able = selection.flatMap((id) => {
    const placement = placementInView(desk, id);
    const aspect = aspectOf(desk, id);
    if (!placement || aspect === null || ownEntry(ownEntry(doc.areas, areaKey)?.layers, id)?.locked) return [];
    return [{ id, placement, box: placedBox(placementMatrix(placement, aspect)) }];
  });
  if (able.length === 0) return null;
  const boxes = able.map((one) => one.box);
  const move = (label: string, shifts: readonly Shift[]) =>
    desk.edit(label, (d) =>
      able.reduce((next, { id, placement }, i) => {
        const { dx, dy } = shifts[i]!;
        const round = (value: number) => Math.round(value * 1000) / 1000;
        if (dx === 0 && dy === 0) return next;
        return placeLayer(next, areaKey, id, geometryId, {
          ...placement,
          xMm: round(placement.xMm + dx),
          yMm: round(placement.yMm + dy),
        });
      }, d),
    );
  const within = able.length > 1 ? boxAround(boxes) : trimBox(ownEntry(data.blank.geometries, geometryId)!);
  return (
    <div role="group" aria-label="Align" className="flex flex-wrap">
      {EDGES.map(([edge, name, Icon]) => (
        <IconButton key={edge} name={name} onClick={() => move('Align', alignBoxes(boxes, edge, within))}>
          <Icon size={15} aria-hidden />
        </IconButton>
      ))}
      {able.length > 2 && (
        <>
          <IconButton name="Same gaps across" onClick={() => move('Distribute', distributeBoxes(boxes, 'x'))}>
            <AlignHorizontalSpaceAround size={15} aria-hidden />
          </IconButton>
          <IconButton name="Same gaps down" onClick={() => move('Distribute', distributeBoxes(boxes, 'y'))}>
            <AlignVerticalSpaceAround size={15} aria-hidden />
          </IconButton>
        </>
      )}
    </div>
  );
}
