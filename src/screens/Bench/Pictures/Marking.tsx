'use client';

import { useState } from 'react';
import { addPictures, type PictureChoice } from '@/bench/picturing';
import { firstMarks, readMarks, shapesOf, withMeshSize, type MarksKind, type Sides } from '@/bench/marking';
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
import { useAct } from '@/ui/use-act';
import { useDesk, type BenchArtwork } from '../desk';
import { PartTools } from './PartTools';
import { PhotoSurface, type MarkTool } from './PhotoSurface';
import { marksOfView, sentMarks, type OwnShotView } from './own-shot-view';
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
  const photo = { widthPx: photograph.facts!.widthPx, heightPx: photograph.facts!.heightPx };
  const marked = useMarked(photograph, shot);
  const { shape, name, setName, marks, setMarks, part, setPart } = marked;
  const [tool, setTool] = useState<MarkTool>('marks');
  const [brushPx, setBrush] = useState(Math.round(photo.widthPx / 40));
  const [tolerance, setTolerance] = useState(36);
  const [canvas, setCanvas] = useState<HTMLCanvasElement | null>(null);
  const { map, problem } = readMarks(marks, photo, shape.geometry);
  const { share, problem: partProblem } = usePart(photograph.id, photo.widthPx, part, canvas);
  const { save, saving, refusal } = useSaveShot(shot, choice, onClose);
  const kept = part ?? { picks: [], strokes: [] };
  const body = {
    photographId: photograph.id,
    name,
    areaKey: shape.area.key,
    variant: shape.variant,
    marks: sentMarks(marks),
    part,
  };
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
        <How marked={marked} photo={photo} />
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
          <Button
            kind="primary"
            disabled={saving || map === null || name.trim() === ''}
            onClick={() => void save(body)}
          >
            {saving ? '◔ The shot is made' : shot ? 'Save the shot' : 'Make the shot'}
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </p>
      </div>
    </div>
  );
}

/** Which area is marked, and by which kind of marks. */
function How({ marked, photo }: { marked: ReturnType<typeof useMarked>; photo: Sides }) {
  const { blank } = useDesk('data').data;
  const { shapes, shape, setShapeKey, marks, setMarks } = marked;
  return (
    <>
      <Select
        label="Shows"
        value={shape.key}
        choices={shapes.map((one) => ({
          value: one.key,
          name: `${areaTitle(blank, one.area)}, ${one.geometry.widthMm} × ${one.geometry.heightMm} mm`,
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
      <Measures marks={marks} change={setMarks} />
    </>
  );
}

/** What is marked: the area as it is on the good, the shot's name, the marks, and the part that takes the fabric's color. */
function useMarked(photograph: BenchArtwork, shot: OwnShotView | null) {
  const { data, areaKey, geometryId } = useDesk('data', 'areaKey', 'geometryId');
  const shapes = shapesOf(data.blank);
  const [shapeKey, setShapeKey] = useState(() => {
    const first = shapes.find(({ area, geometry, variant }) =>
      shot
        ? area.key === shot.areaKey &&
          Object.entries(shot.variant).every(([code, value]) => ownEntry(variant, code) === value)
        : area.key === areaKey && ownEntry(data.blank.geometries, geometryId) === geometry,
    );
    return (first ?? shapes[0]!).key;
  });
  const shape = shapes.find((one) => one.key === shapeKey)!;
  const [name, setName] = useState(shot?.name ?? photograph.name);
  const [marks, setMarks] = useState<Marks>(() =>
    shot ? marksOfView(shot) : firstMarks('corners', photograph.facts!, shape.geometry),
  );
  const [part, setPart] = useState<Part | null>(shot?.part ?? null);
  return { shapes, shape, setShapeKey, name, setName, marks, setMarks, part, setPart };
}

/** Saves a shot; a new one is added to the product's pictures. */
function useSaveShot(shot: OwnShotView | null, choice: PictureChoice, onSaved: () => void) {
  const { data, proof, doc, edit } = useDesk('data', 'proof', 'doc', 'edit');
  const reloadShots = useReloadShots();
  const { act, busy, problem } = useAct();
  const save = (body: object) =>
    act(async () => {
      const saved = shot
        ? await call<{ id: string }>('PUT', `/shots/${shot.id}`, body)
        : await call<{ id: string }>('POST', `/blanks/${data.blank.id}/shots`, body);
      await reloadShots();
      proof.setShot(saved.id);
      if (!shot) {
        const [color] = chosenColors(doc, data.blank);
        edit('Add a picture', (now) => addPictures(now, choice, [{ shotId: saved.id, color: color ?? null }]));
      }
      onSaved();
    });
  return { save, saving: busy, refusal: problem };
}

const meshSide = (typed: number) => Math.max(2, Math.min(9, Math.round(typed)));

/** The measures of marks that points alone do not give. */
function Measures({ marks, change }: { marks: Marks; change: (marks: Marks) => void }) {
  if (marks.kind === 'cylinder')
    return (
      <div className="grid gap-2">
        <Measure
          label="Across the body"
          value={marks.diameterMm}
          unit="mm"
          put={(diameterMm) => change({ ...marks, diameterMm })}
        />
        <Measure
          label="Seen between the edges"
          value={marks.spanDeg}
          unit="°"
          put={(spanDeg) => change({ ...marks, spanDeg })}
        />
        <Measure
          label="Place in the middle"
          value={marks.middleMm}
          unit="mm"
          put={(middleMm) => change({ ...marks, middleMm })}
        />
      </div>
    );
  if (marks.kind === 'mesh')
    return (
      <div className="flex gap-4">
        <Measure
          label="Across"
          value={marks.columns}
          unit=""
          put={(n) => change(withMeshSize(marks, meshSide(n), marks.rows))}
        />
        <Measure
          label="Down"
          value={marks.rows}
          unit=""
          put={(n) => change(withMeshSize(marks, marks.columns, meshSide(n)))}
        />
      </div>
    );
  return null;
}

function Measure({
  label,
  value,
  unit,
  put,
}: {
  label: string;
  value: number;
  unit: string;
  put: (n: number) => void;
}) {
  return (
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
}
