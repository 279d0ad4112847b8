'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { addPictures, type PictureChoice } from '@/bench/picturing';
import { firstMarks, readMarks, shapesOf, withMeshSize, type MarksKind } from '@/bench/marking';
import { areaTitle } from '@/core/catalog/blank';
import { chosenColors } from '@/core/listing/form';
import type { Marks } from '@/core/shot/marks';
import type { Part } from '@/core/shot/part';
import { readyArtwork } from '@/screens/ready-artwork';
import { Alert } from '@/ui/Alert';
import { Button } from '@/ui/Button';
import { EntryField, TextField } from '@/ui/Field';
import { Select } from '@/ui/Select';
import { Sheet } from '@/ui/Sheet';
import { call, upload } from '@/ui/api';
import { useDesk, type BenchArtwork } from '../desk';
import { PartTools } from './PartTools';
import { PhotoSurface, type MarkTool } from './PhotoSurface';
import { usePart } from './use-part';

/** A photograph of one's own as a shot: brought or taken from those that are there, marked, saved, and then used like every other. */
export function MarkSheet({ open, onClose, choice }: { open: boolean; onClose: () => void; choice: PictureChoice }) {
  return (
    <Sheet open={open} onClose={onClose} title="Photograph as a shot" wide="full">
      {open && <Begin onClose={onClose} choice={choice} />}
    </Sheet>
  );
}

/** A shot as it is told by `GET /shots/ID`. */
interface ToldShot {
  readonly id: string;
  readonly photographId: string;
  readonly name: string;
  readonly areaKey: string;
  readonly variant: { readonly [code: string]: string };
  readonly marks: { readonly kind: MarksKind; readonly points: readonly { x: number; y: number }[] } & Record<
    string,
    unknown
  >;
  readonly part: Part | null;
}

interface Start {
  readonly photograph: BenchArtwork;
  readonly shot: ToldShot | null;
}

function Begin({ onClose, choice }: { onClose: () => void; choice: PictureChoice }) {
  const desk = useDesk();
  const [photographs, setPhotographs] = useState<readonly BenchArtwork[] | null>(null);
  const [start, setStart] = useState<Start | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [taking, setTaking] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const own = desk.data.shots.filter((shot) => shot.own);
  const read = useCallback(
    () =>
      call<{ photographs: BenchArtwork[] }>('GET', '/photographs').then(
        (answer) => setPhotographs(answer.photographs.filter((one) => one.state === 'ready')),
        (error: Error) => setProblem(error.message),
      ),
    [],
  );
  useEffect(() => void read(), [read]);
  const take = async (file: File) => {
    setProblem(null);
    setTaking(true);
    try {
      const { id } = await upload<{ id: string }>(
        `/photographs?name=${encodeURIComponent(file.name)}`,
        file,
        () => undefined,
      );
      setStart({ photograph: await readyArtwork<BenchArtwork>(id), shot: null });
    } catch (why) {
      setProblem((why as Error).message);
    } finally {
      setTaking(false);
    }
  };
  const reopen = async (id: string) => {
    try {
      const shot = await call<ToldShot>('GET', `/shots/${id}`);
      setStart({ photograph: await call<BenchArtwork>('GET', `/artwork/${shot.photographId}`), shot });
    } catch (why) {
      setProblem((why as Error).message);
    }
  };
  const remove = async (path: string) => {
    try {
      await call('DELETE', path);
      await Promise.all([read(), desk.reloadShots()]);
    } catch (why) {
      setProblem((why as Error).message);
    }
  };
  if (start) return <Marking start={start} choice={choice} onClose={onClose} />;
  return (
    <div className="grid gap-4">
      <p className="max-w-2xl text-muted">
        Bring a photograph of the blank, well lit and with nothing on it. You mark where the print area is and what
        takes the fabric’s color; light and shade come from the photograph. JPEG, PNG or WebP, up to 50 megapixels.
      </p>
      {problem && <Alert>{problem}</Alert>}
      <p>
        <Button kind="primary" disabled={taking} onClick={() => input.current?.click()}>
          {taking ? '◔ It is being looked at' : 'Bring a photograph'}
        </Button>
        <input
          ref={input}
          type="file"
          accept="image/jpeg,image/png,image/webp"
          className="sr-only"
          aria-label="A photograph of the blank"
          tabIndex={-1}
          onChange={(e) => {
            const file = e.target.files?.[0];
            e.target.value = '';
            if (file) void take(file);
          }}
        />
      </p>
      {own.length > 0 && (
        <section>
          <h3 className="font-semibold text-small mb-1">Your shots of {desk.data.blank.name}</h3>
          <ul className="divide-y divide-hairline border-y border-hairline max-w-xl">
            {own.map((shot) => (
              <li key={shot.id} className="flex items-center gap-3 py-1.5 text-small">
                <span className="flex-1">{shot.name}</span>
                <Button kind="quiet" onClick={() => void reopen(shot.id)}>
                  Mark it anew
                </Button>
                <Button kind="quiet" onClick={() => void remove(`/shots/${shot.id}`)}>
                  Delete
                </Button>
              </li>
            ))}
          </ul>
        </section>
      )}
      {photographs && photographs.length > 0 && (
        <section>
          <h3 className="font-semibold text-small mb-1">Photographs that are there</h3>
          <ul className="grid grid-cols-6 gap-3">
            {photographs.map((one) => (
              <li key={one.id}>
                <button
                  type="button"
                  className="block w-full rounded-paper border border-hairline overflow-hidden"
                  onClick={() => setStart({ photograph: one, shot: null })}
                >
                  <img
                    src={`/api/v1/artwork/${one.id}/thumbnail`}
                    alt={one.name}
                    className="aspect-square w-full object-cover"
                  />
                </button>
                <span className="flex items-baseline justify-between text-tiny">
                  <span className="truncate">{one.name}</span>
                  <Button kind="quiet" className="text-tiny!" onClick={() => void remove(`/photographs/${one.id}`)}>
                    Delete
                  </Button>
                </span>
              </li>
            ))}
          </ul>
        </section>
      )}
    </div>
  );
}

/** Marks as they were saved. */
function marksOfTold({ marks }: ToldShot): Marks {
  const { kind, points } = marks;
  const number = (name: string) => Number(marks[name]);
  if (kind === 'corners') return { kind, corners: points as unknown as Extract<Marks, { kind: 'corners' }>['corners'] };
  if (kind === 'mesh') return { kind, columns: number('columns'), rows: number('rows'), points };
  return {
    kind,
    left: [points[0]!, points[1]!],
    right: [points[2]!, points[3]!],
    bendTopPx: number('bendTopPx'),
    bendBottomPx: number('bendBottomPx'),
    spanDeg: number('spanDeg'),
    diameterMm: number('diameterMm'),
    middleMm: number('middleMm'),
  };
}

const toldMarks = (marks: Marks) => {
  if (marks.kind === 'corners') return { kind: marks.kind, points: marks.corners };
  if (marks.kind === 'mesh') return marks;
  const { left, right, ...rest } = marks;
  return { ...rest, points: [...left, ...right] };
};

const KINDS: readonly { readonly value: MarksKind; readonly name: string; readonly says: string }[] = [
  { value: 'corners', name: 'Four corners', says: 'For what is flat: a poster, a bag, a page.' },
  {
    value: 'cylinder',
    name: 'Around a body',
    says: 'For mugs and bottles: two edges and how far top and bottom bend.',
  },
  { value: 'mesh', name: 'A mesh of points', says: 'For cloth that bends: the area, point by point.' },
];

function Marking({ start, choice, onClose }: { start: Start; choice: PictureChoice; onClose: () => void }) {
  const desk = useDesk();
  const { photograph, shot } = start;
  const photo = { widthPx: photograph.facts!.widthPx, heightPx: photograph.facts!.heightPx };
  const shapes = shapesOf(desk.data.blank);
  const [shapeKey, setShapeKey] = useState(
    () =>
      (shot
        ? shapes.find(
            (one) =>
              one.area.key === shot.areaKey &&
              Object.entries(shot.variant).every(([code, value]) => one.variant[code] === value),
          )
        : shapes.find(
            (one) => one.area.key === desk.areaKey && desk.data.blank.geometries[desk.geometryId] === one.geometry,
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
      await desk.reloadShots();
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
