'use client';

import { useId } from 'react';
import { AlignCenter, AlignLeft, AlignRight } from 'lucide-react';
import { changeLayer } from '@/bench/placing';
import type { TextLayer } from '@/core/document/document';
import { axisLengths } from '@/core/geometry/matrix';
import { layerMatrix } from '@/core/geometry/fit';
import { FAMILIES, familyByCode, styleOf, type FontStyle } from '@/core/lettering/families';
import { MAX_SIZE_MM, MAX_TEXT, MIN_SIZE_MM, type Lettering } from '@/core/lettering/text';
import { ownEntry } from '@/core/own-entry';
import { Check } from '@/ui/Check';
import { ColorField } from '@/ui/ColorField';
import { EntryField } from '@/ui/Field';
import { IconButton } from '@/ui/IconButton';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import { FontPicker } from './FontPicker';
import { lengthText, round, steppedLength, typedNumber, typedSize, type LengthUnit } from './lettering-fields';

const STYLE_NAMES: Record<FontStyle, string> = {
  regular: 'regular',
  bold: 'bold',
  italic: 'italic',
  'bold-italic': 'bold italic',
};
const ICONS = { left: AlignLeft, center: AlignCenter, right: AlignRight } as const;
type Put = (label: string, part: Partial<Lettering>, key?: string) => void;

interface Fields {
  readonly lettering: Lettering;
  /** What is typed are lengths on the good; the box is scaled by its placement. */
  readonly scale: number;
  readonly dpi: number;
  readonly put: Put;
}

/** The letters of a text layer: words, font, size and all that shapes them. */
export function LetteringForm({ layerId, layer }: { layerId: string; layer: TextLayer }) {
  const { areaKey, geometryId, data, letterings, edit } = useDesk(
    'areaKey',
    'geometryId',
    'data',
    'letterings',
    'edit',
  );
  const { lettering } = layer;
  const aspect = lettering.boxHeightMm / lettering.boxWidthMm;
  const scale =
    axisLengths(layerMatrix(layer, aspect, geometryId, data.blank.geometries)).x / lettering.boxWidthMm || 1;
  const put: Put = (label, part, key) =>
    edit(
      label,
      (doc) =>
        changeLayer(doc, areaKey, layerId, (one) =>
          one.kind === 'text' ? { ...one, lettering: { ...one.lettering, ...part } } : one,
        ),
      key && `${key}:${layerId}`,
    );
  const fields: Fields = { lettering, scale, dpi: ownEntry(data.blank.geometries, geometryId)!.dpi, put };
  return (
    <div className="grid gap-2">
      <WordsField {...fields} />
      <FontFields {...fields} />
      <SizeFields {...fields} setSizeMm={ownEntry(letterings, layerId)?.sizeMm ?? null} />
      <AlignAndFill {...fields} />
      <ShapeFields {...fields} />
      <OutlineFields {...fields} />
      <BoxFields {...fields} />
    </div>
  );
}

function WordsField({ lettering, put }: Fields) {
  const words = useId();
  return (
    <>
      <label htmlFor={words} className="sr-only">
        Words
      </label>
      <textarea
        id={words}
        data-words
        rows={3}
        maxLength={MAX_TEXT}
        dir="auto"
        className="w-full resize-y rounded-paper border border-edge bg-sheet px-2 py-1.5 text-base"
        value={lettering.text}
        onChange={(e) => put('Words', { text: e.target.value.toWellFormed() }, 'words')}
      />
      {lettering.text.length >= MAX_TEXT && (
        <p role="status" className="text-small text-caution">
          A layer holds {MAX_TEXT} characters and this one is full; what is pasted beyond them is left out. Put the rest
          in another layer.
        </p>
      )}
    </>
  );
}

function FontFields({ lettering, put }: Fields) {
  const family = familyByCode(lettering.family);
  return (
    <>
      <FontPicker
        value={lettering.family}
        onChange={(code) =>
          put('Font', { family: code, style: styleOf(familyByCode(code) ?? FAMILIES[0]!, lettering.style) })
        }
      />
      <Select
        label="Style"
        value={lettering.style}
        choices={(family?.styles ?? ['regular']).map((value) => ({ value, name: STYLE_NAMES[value] }))}
        onChange={(style) => put('Style', { style })}
      />
    </>
  );
}

/** A length on the good, to type and to step. */
function LengthField({
  of: { scale, dpi },
  label,
  mm,
  take,
  least = MIN_SIZE_MM,
  most = MAX_SIZE_MM,
  unit = 'mm',
}: {
  of: Fields;
  label: string;
  mm: number;
  take: (mm: number) => void;
  least?: number;
  most?: number;
  unit?: LengthUnit;
}) {
  const bounds = { least, most, scale, unit, dpi };
  return (
    <EntryField
      label={label}
      width="w-16"
      text={lengthText(mm, bounds)}
      read={(typed) => take(typedSize(typed, bounds))}
      step={(by) => take(steppedLength(mm, by, bounds))}
    />
  );
}

function SizeFields({ setSizeMm, ...fields }: Fields & { setSizeMm: number | null }) {
  const { lettering, scale, put } = fields;
  const take = (sizeMm: number) => put('Size of letters', { sizeMm }, 'size');
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1.5">
      <LengthField of={fields} label="size" mm={lettering.sizeMm} take={take} />
      <LengthField of={fields} label="in points" mm={lettering.sizeMm} take={take} unit="pt" />
      {setSizeMm !== null && setSizeMm < lettering.sizeMm && (
        <span className="text-tiny text-muted" data-testid="set-size">
          set in {(setSizeMm * scale).toFixed(1)} mm
        </span>
      )}
    </div>
  );
}

function AlignAndFill({ lettering, put }: Fields) {
  return (
    <div className="flex items-center gap-1" role="group" aria-label="Alignment">
      {(['left', 'center', 'right'] as const).map((align) => {
        const Icon = ICONS[align];
        return (
          <IconButton
            key={align}
            name={`Align ${align}`}
            aria-pressed={lettering.align === align}
            className={lettering.align === align ? 'bg-selection text-ink' : ''}
            onClick={() => put('Alignment', { align })}
          >
            <Icon size={15} aria-hidden />
          </IconButton>
        );
      })}
      <span className="ml-2">
        <ColorField
          label="Fill"
          showLabel={false}
          value={lettering.fill}
          onChange={(fill) => put('Fill', { fill }, 'fill')}
        />
      </span>
    </div>
  );
}

/** A number without a length: how letters and lines stand. */
function NumberField({
  label,
  value,
  unit,
  least,
  most,
  take,
}: {
  label: string;
  value: number;
  unit: string;
  least: number;
  most: number;
  take: (n: number) => void;
}) {
  return (
    <EntryField
      label={label}
      width="w-12"
      text={`${value}${unit}`.replace('-', '−')}
      read={(typed) => take(typedNumber(typed, unit, least, most))}
      step={(by) => take(Math.min(most, Math.max(least, round(value + by * (most > 20 ? 1 : 0.05)))))}
    />
  );
}

const SHAPE_FIELDS = [
  { key: 'tracking', label: 'tracking', edit: 'Tracking', unit: '', least: -200, most: 2000 },
  { key: 'lineHeight', label: 'lines', edit: 'Line height', unit: ' ×', least: 0.5, most: 4 },
  { key: 'arcDeg', label: 'arc', edit: 'Arc', unit: '°', least: -350, most: 350 },
] as const;

function ShapeFields({ lettering, put }: Fields) {
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1.5">
      {SHAPE_FIELDS.map(({ key, label, edit, unit, least, most }) => (
        <NumberField
          key={key}
          label={label}
          value={lettering[key]}
          unit={unit}
          least={least}
          most={most}
          take={(n) => put(edit, { [key]: n }, label)}
        />
      ))}
    </div>
  );
}

function OutlineFields(fields: Fields) {
  const { lettering, put } = fields;
  const { outline } = lettering;
  return (
    <>
      <Check
        on={outline !== null}
        onChange={(on) =>
          put('Outline', { outline: on ? { color: '#ffffff', widthMm: round(lettering.sizeMm * 0.06) } : null })
        }
        className="text-small"
      >
        outline
      </Check>
      {outline && (
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5">
          <ColorField
            label="Outline color"
            showLabel={false}
            value={outline.color}
            onChange={(color) => put('Outline', { outline: { ...outline, color } }, 'outline')}
          />
          <LengthField
            of={fields}
            label="wide"
            mm={outline.widthMm}
            take={(widthMm) => put('Outline', { outline: { ...outline, widthMm } }, 'outline')}
            least={0}
            most={50}
          />
        </div>
      )}
    </>
  );
}

function BoxFields(fields: Fields) {
  const { lettering, put } = fields;
  return (
    <>
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1.5">
        <LengthField
          of={fields}
          label="box high"
          mm={lettering.boxHeightMm}
          take={(boxHeightMm) => put('Height of the box', { boxHeightMm }, 'box')}
          least={1}
          most={10_000}
        />
      </div>
      <Check on={lettering.wrap} onChange={(on) => put('Break lines', { wrap: on })} className="text-small">
        break into lines
      </Check>
      <Check
        on={lettering.shrinkToMm !== null}
        onChange={(on) => put('Shrink to fit', { shrinkToMm: on ? round(lettering.sizeMm / 4) : null })}
        className="text-small"
      >
        shrink to fit the box
      </Check>
      {lettering.shrinkToMm !== null && (
        <LengthField
          of={fields}
          label="not under"
          mm={lettering.shrinkToMm}
          take={(shrinkToMm) => put('Smallest size', { shrinkToMm }, 'shrink')}
        />
      )}
    </>
  );
}
