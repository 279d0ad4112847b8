'use client';

import { useState } from 'react';
import { addPictures, type PictureChoice } from '@/bench/picturing';
import { firstMarks, readMarks, shapesOf, withMeshSize, type MarksKind } from '@/bench/marking';
import { areaTitle } from '@/core/catalog/blank';
import { chosenColors } from '@/core/document/chosen';
import type { Marks } from '@/core/shot/marks';
import type { Part } from '@/core/shot/part';
import { ownEntry } from '@/core/own-entry';
import { Alert } from '@/ui/Alert';
import { Button } from '@/ui/Button';
import { EntryField, TextField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { call } from '@/ui/api';
import { useDesk, type BenchArtwork } from '../desk';
import { PartTools } from './PartTools';
import { PhotoSurface, type MarkTool } from './PhotoSurface';
import { marksOfTold, toldMarks, type OwnShotView } from './own-shot-view';
import { usePart } from './use-part';
import { useReloadShots } from './use-reload-shots';

const KINDS: readonly { readonly value: MarksKind; readonly name: string; readonly says: string }[] = [
  { value: 'corners', name: 'Four corners', says: 'For what is flat: a poster, a bag, a page.' },
  {
    value: 'cylinder',
    name: 'Around a body',
    says: 'For mugs and bottles: two edges and how far top and bottom bend.',
  },
  { value: 'mesh', name: 'A mesh of points', says: 'For cloth that bends: the area, point by point.' },
];

interface MarkingProps {
  readonly photograph: BenchArtwork;
  /** The shot that is marked anew; null for a new one. */
  readonly shot: OwnShotView | null;
  readonly choice: PictureChoice;
  readonly onClose: () => void;
}

/** Marks on a photograph, and what of it takes the fabric's color. */
export function Marking({ photograph, shot, choice, onClose }: MarkingProps) {
  const desk = useDesk('data', 'areaKey', 'geometryId', 'proof', 'doc', 'edit');
  const reloadShots = useReloadShots();
  const photo = { widthPx: photograph.facts!.widthPx, heightPx: photograph.facts!.heightPx };
  const shapes = shapesOf(desk.data.blank);
  const [shapeKey, setShapeKey] = useState(
    () =>
      (shot
        ? shapes.find(
            (one) =>
              one.area.key === shot.areaKey &&
              Object.entries(shot.variant).every(([code, value]) => ownEntry(one.variant, code) === value),
          )
        : shapes.find(
            (one) =>
              one.area.key === desk.areaKey && ownEntry(desk.data.blank.geometries, desk.geometryId) === one.geometry,
          )
      )?.key ?? shapes[0]!.key,
  );
  const shape = shapes.find((one) => one.key === shapeKey)!;
  const [name, setName] = useState(shot?.name ?? photograph.name);
  const [marks, setMarks] = useState<Marks>(() =>
    shot ? marksOfTold(shot) : firstMarks('corners', photo, shape.geometry),
  );
  const [part, setPart] = useState<Part | null>(shot?.part ?? null);
  const [tool, setTool] = useState<MarkTool>('marks');
  const [brushPx, setBrush] = useState(Math.round(photo.widthPx / 40));
  const [tolerance, setTolerance] = useState(36);
  const [canvas, setCanvas] = useState<HTMLCanvasElement | null>(null);
  const [saving, setSaving] = useState(false);
  const [refusal, setRefusal] = useState<string | null>(null);
  const { map, problem } = readMarks(marks, photo, shape.geometry);
  const { share, problem: partProblem } = usePart(photograph.id, photo.widthPx, part, canvas);
  const kept = part ?? { picks: [], strokes: [] };

  const save = async () => {
    setSaving(true);
    setRefusal(null);
    try {
      const body = {
        photographId: photograph.id,
        name,
        areaKey: shape.area.key,
        variant: shape.variant,
        marks: toldMarks(marks),
        part,
      };
      const saved = shot
        ? await call<{ id: string }>('PUT', `/shots/${shot.id}`, body)
        : await call<{ id: string }>('POST', `/blanks/${desk.data.blank.id}/shots`, body);
      await reloadShots();
      desk.proof.setShot(saved.id);
      if (!shot) {
        const [color] = chosenColors(desk.doc, desk.data.blank);
        desk.edit('Add a picture', (doc) => addPictures(doc, choice, [{ shotId: saved.id, color: color ?? null }]));
      }
      onClose();
    } catch (why) {
      setRefusal((why as Error).message);
    } finally {
      setSaving(false);
    }
  };
  const number = (label: string, value: number, unit: string, put: (value: number) => void) => (
    <EntryField
      label={label}
      text={`${Math.round(value * 10) / 10} ${unit}`}
      read={(typed) => {
        const read = Number.parseFloat(typed.replace(',', '.'));
        if (!Number.isFinite(read)) throw new Error(`Type a number, such as 82 ${unit}.`);
        put(read);
      }}
      step={(by) => put(value + by)}
    />
  );
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_290px] gap-5">
      <PhotoSurface
        photographId={photograph.id}
        photo={photo}
        marks={marks}
        map={map}
        tool={tool}
        brushPx={brushPx}
        overlay={setCanvas}
        onMarks={setMarks}
        onPick={(at) => setPart({ ...kept, picks: [...kept.picks, { ...at, tolerance }] })}
        onStroke={(points, add) => setPart({ ...kept, strokes: [...kept.strokes, { add, radiusPx: brushPx, points }] })}
      />
      <div className="grid content-start gap-3 text-small">
        <TextField label="Name" value={name} onChange={setName} />
        <Select
          label="Shows"
          value={shapeKey}
          choices={shapes.map((one) => ({
            value: one.key,
            name: `${areaTitle(desk.data.blank, one.area)}, ${one.geometry.widthMm} × ${one.geometry.heightMm} mm`,
          }))}
          onChange={setShapeKey}
        />
        <Select
          label="Marked by"
          value={marks.kind}
          choices={KINDS}
          onChange={(kind) => setMarks(firstMarks(kind, photo, shape.geometry))}
        />
        <p className="text-tiny text-muted -mt-2">
          {KINDS.find((kind) => kind.value === marks.kind)!.says} The lines show how the area will lie.
        </p>
        {marks.kind === 'cylinder' && (
          <div className="grid gap-2">
            {number('Across the body', marks.diameterMm, 'mm', (diameterMm) => setMarks({ ...marks, diameterMm }))}
            {number('Seen between the edges', marks.spanDeg, '°', (spanDeg) => setMarks({ ...marks, spanDeg }))}
            {number('Place in the middle', marks.middleMm, 'mm', (middleMm) => setMarks({ ...marks, middleMm }))}
          </div>
        )}
        {marks.kind === 'mesh' && (
          <div className="flex gap-4">
            {number('Across', marks.columns, '', (n) =>
              setMarks(withMeshSize(marks, Math.max(2, Math.min(9, Math.round(n))), marks.rows)),
            )}
            {number('Down', marks.rows, '', (n) =>
              setMarks(withMeshSize(marks, marks.columns, Math.max(2, Math.min(9, Math.round(n))))),
            )}
          </div>
        )}
        {problem && <Alert>{problem}</Alert>}
        <PartTools
          part={part}
          share={share}
          tool={tool}
          setTool={setTool}
          brushPx={brushPx}
          setBrush={setBrush}
          tolerance={tolerance}
          setTolerance={setTolerance}
          change={setPart}
        />
        {partProblem && <Alert>{partProblem}</Alert>}
        {refusal && <Alert>{refusal}</Alert>}
        <p className="flex gap-2 mt-1">
          <Button kind="primary" disabled={saving || map === null || name.trim() === ''} onClick={() => void save()}>
            {saving ? '◔ The shot is made' : shot ? 'Save the shot' : 'Make the shot'}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </p>
      </div>
    </div>
  );
}
