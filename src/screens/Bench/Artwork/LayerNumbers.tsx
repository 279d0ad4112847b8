'use client';

import { Crosshair, FlipHorizontal2, FlipVertical2 } from 'lucide-react';
import { useSyncExternalStore } from 'react';
import { placeLayer } from '@/bench/placing';
import type { Layer } from '@/core/document/document';
import { normalizeDegrees, type Placement } from '@/core/geometry/placement';
import { ownEntry } from '@/core/own-entry';
import { EntryField } from '@/ui/Field';
import { IconButton } from '@/ui/IconButton';
import { useDesk } from '../desk';
import {
  dpiAt,
  dpiTone,
  lengthOf,
  typedDegrees,
  typedLength,
  withLength,
  type LengthName,
  type Placed,
} from './numbers';
import { aspectOf, placementInView } from './placed';

type Put = (label: string, part: Partial<Placement>, key?: string) => void;
interface FieldProps {
  readonly layerId: string;
  readonly placed: Placed;
  readonly put: Put;
}

/** Where the selected layer is and how large, to read and to type; while it is moved, where it is just then. */
export function LayerNumbers({ layerId }: { layerId: string }) {
  const desk = useDesk('data', 'designed', 'areaKey', 'geometryId', 'live', 'edit', 'artworkSizes');
  const { data, designed, areaKey, geometryId } = desk;
  const live = useSyncExternalStore(desk.live.subscribe, desk.live.get, desk.live.get);
  const moving = live?.layerId === layerId ? live.placement : null;
  const placement = moving ?? placementInView(desk, layerId);
  const aspect = aspectOf(desk, layerId);
  if (!placement || aspect === null)
    return <span className="text-small text-muted">The artwork is being processed.</span>;
  const placed: Placed = { placement, aspect, geometry: ownEntry(data.blank.geometries, geometryId)! };
  const put: Put = (label, part, key) =>
    desk.edit(label, (d) => placeLayer(d, areaKey, layerId, geometryId, { ...placement, ...part }), key);
  return (
    <>
      <span className="flex flex-wrap items-baseline gap-x-3.5 gap-y-1">
        {(['xMm', 'yMm', 'widthMm', 'heightMm'] as const).map((name) => (
          <LengthField key={name} name={name} {...{ layerId, placed, put }} />
        ))}
        <TurnField {...{ layerId, placed, put }} />
      </span>
      <Mirrors {...{ layerId, placed, put }} />
      <Resolution
        placed={placed}
        layer={ownEntry(ownEntry(designed.areas, areaKey)!.layers, layerId)!}
        moving={moving !== null}
      />
    </>
  );
}

const LABELS: { readonly [name in LengthName]: string } = { xMm: 'x', yMm: 'y', widthMm: 'width', heightMm: 'height' };

function LengthField({ layerId, placed, put, name }: FieldProps & { name: LengthName }) {
  const mm = lengthOf(placed, name);
  const label = LABELS[name];
  return (
    <EntryField
      label={label}
      width="w-[74px]"
      text={`${mm.toFixed(1)} mm`}
      read={(typed) => put(`Set ${label}`, withLength(placed, name, typedLength(typed, name, placed.geometry)))}
      step={(by) => put(`Step ${label}`, withLength(placed, name, mm + by), `step:${name}:${layerId}`)}
    />
  );
}

function TurnField({ layerId, placed: { placement }, put }: FieldProps) {
  return (
    <EntryField
      label="turn"
      width="w-14"
      text={`${placement.rotationDeg.toFixed(1).replace('-', '−')}°`}
      read={(typed) => put('Set turn', { rotationDeg: typedDegrees(typed) })}
      step={(by) =>
        put('Step turn', { rotationDeg: normalizeDegrees(placement.rotationDeg + by) }, `step:turn:${layerId}`)
      }
    />
  );
}

function Mirrors({ placed: { placement, geometry }, put }: FieldProps) {
  return (
    <span className="flex items-center gap-1">
      <IconButton
        name="Center"
        title="Center (C)"
        onClick={() => put('Center', { xMm: geometry.widthMm / 2, yMm: geometry.heightMm / 2 })}
      >
        <Crosshair size={16} aria-hidden />
      </IconButton>
      <IconButton name="Mirror" title="Mirror left to right" onClick={() => put('Mirror', { flipX: !placement.flipX })}>
        <FlipHorizontal2 size={16} aria-hidden />
      </IconButton>
      <IconButton name="Mirror top to bottom" onClick={() => put('Mirror', { flipY: !placement.flipY })}>
        <FlipVertical2 size={16} aria-hidden />
      </IconButton>
    </span>
  );
}

const TONES = {
  enough: 'text-kept',
  less: 'text-ink',
  'much-less': 'text-caution',
  'too-little': 'text-stop',
} as const;

/** The resolution that it is printed with, and the one that is wanted where it is less. */
function Resolution({ placed, layer, moving }: { placed: Placed; layer: Layer; moving: boolean }) {
  const { data, artworks, geometryId } = useDesk('data', 'artworks', 'geometryId');
  const { geometry } = placed;
  const facts = layer.kind === 'artwork' ? artworks.find(({ id }) => id === layer.artworkId)?.facts : undefined;
  if (!facts || facts.vector)
    return (
      <span className="ml-auto text-small font-medium whitespace-nowrap text-kept" data-testid="dpi">
        vector
      </span>
    );
  const dpi = dpiAt(placed, layer, facts, moving ? null : { geometryId, geometries: data.blank.geometries });
  return (
    <span
      className={`ml-auto text-small font-medium whitespace-nowrap ${TONES[dpiTone(dpi, geometry.dpi)]}`}
      data-testid="dpi"
    >
      {dpi} DPI
      {dpi < geometry.dpi && <span className="text-muted"> of {geometry.dpi}</span>}
    </span>
  );
}
