'use client';

import { useId } from 'react';
import { AlignCenter, AlignLeft, AlignRight } from 'lucide-react';
import { changeLayer } from '@/bench/placing';
import type { TextLayer } from '@/core/document/document';
import { axisLengths } from '@/core/geometry/matrix';
import { layerMatrix } from '@/core/geometry/fit';
import { FAMILIES, familyByCode, styleOf, type FontStyle } from '@/core/lettering/families';
import { MAX_SIZE_MM, MAX_TEXT, MIN_SIZE_MM, MM_PER_POINT, type Lettering } from '@/core/lettering/text';
import { parseLengthMm } from '@/core/units/length';
import { ownEntry } from '@/core/own-entry';
import { Check } from '@/ui/Check';
import { ColorField } from '@/ui/ColorField';
import { EntryField } from '@/ui/Field';
import { IconButton } from '@/ui/IconButton';
import { Select } from '@/ui/Select';
import { useDesk } from '../desk';
import { FontPicker } from './FontPicker';

const STYLE_NAMES: Record<FontStyle, string> = {
  regular: 'regular',
  bold: 'bold',
  italic: 'italic',
  'bold-italic': 'bold italic',
};
const ICONS = { left: AlignLeft, center: AlignCenter, right: AlignRight } as const;
const round = (value: number) => Math.round(value * 1000) / 1000;

/** The letters of a text layer: words, font, size and all that shapes them. */
export function LetteringForm({ layerId, layer }: { layerId: string; layer: TextLayer }) {
  const desk = useDesk('areaKey', 'geometryId', 'data', 'letterings', 'edit');
  const { areaKey, geometryId, data, letterings } = desk;
  const words = useId();
  const { lettering } = layer;
  const set = ownEntry(letterings, layerId);
  const family = familyByCode(lettering.family);
  // What is typed are lengths on the good: the box is scaled by its placement.
  const aspect = lettering.boxHeightMm / lettering.boxWidthMm;
  const scale =
    axisLengths(layerMatrix(layer, aspect, geometryId, data.blank.geometries)).x / lettering.boxWidthMm || 1;
  const put = (label: string, part: Partial<Lettering>, key?: string) =>
    desk.edit(
      label,
      (doc) =>
        changeLayer(doc, areaKey, layerId, (one) =>
          one.kind === 'text' ? { ...one, lettering: { ...one.lettering, ...part } } : one,
        ),
      key && `${key}:${layerId}`,
    );
  const length = (
    label: string,
    mm: number,
    take: (mm: number) => void,
    { least = MIN_SIZE_MM, most = MAX_SIZE_MM, unit = 'mm' as 'mm' | 'pt' } = {},
  ) => (
    <EntryField
      label={label}
      width="w-16"
      text={unit === 'pt' ? `${((mm * scale) / MM_PER_POINT).toFixed(1)} pt` : `${(mm * scale).toFixed(1)} mm`}
      read={(typed) => {
        const wanted = parseLengthMm(typed, { unit, dpi: ownEntry(data.blank.geometries, geometryId)!.dpi }) / scale;
        if (!(wanted >= least && wanted <= most))
          throw new Error(`It must be from ${round(least * scale)} mm to ${round(most * scale)} mm.`);
        take(round(wanted));
      }}
      step={(by) =>
        take(round(Math.min(most, Math.max(least, mm + (by * (unit === 'pt' ? MM_PER_POINT : 1)) / scale))))
      }
    />
  );
  const number = (
    label: string,
    value: number,
    unit: string,
    least: number,
    most: number,
    take: (n: number) => void,
  ) => (
    <EntryField
      label={label}
      width="w-12"
      text={`${value}${unit}`}
      read={(typed) => {
        const wanted = Number(typed.replace(unit.trim(), '').replace(',', '.').replace('−', '-').trim());
        if (!Number.isFinite(wanted) || wanted < least || wanted > most)
          throw new Error(`“${typed}” is not a number from ${least} to ${most}.`);
        take(wanted);
      }}
      step={(by) => take(Math.min(most, Math.max(least, round(value + by * (most > 20 ? 1 : 0.05)))))}
    />
  );
  return (
    <div className="grid gap-2">
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
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1.5">
        {length('size', lettering.sizeMm, (sizeMm) => put('Size of letters', { sizeMm }, 'size'))}
        {length('in points', lettering.sizeMm, (sizeMm) => put('Size of letters', { sizeMm }, 'size'), { unit: 'pt' })}
        {set && set.sizeMm < lettering.sizeMm && (
          <span className="text-tiny text-muted" data-testid="set-size">
            set in {(set.sizeMm * scale).toFixed(1)} mm
          </span>
        )}
      </div>
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
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1.5">
        {number('tracking', lettering.tracking, '', -200, 2000, (tracking) =>
          put('Tracking', { tracking }, 'tracking'),
        )}
        {number('lines', lettering.lineHeight, ' ×', 0.5, 4, (lineHeight) =>
          put('Line height', { lineHeight }, 'lines'),
        )}
        {number('arc', lettering.arcDeg, '°', -350, 350, (arcDeg) => put('Arc', { arcDeg }, 'arc'))}
      </div>
      <Check
        on={lettering.outline !== null}
        onChange={(on) =>
          put('Outline', {
            outline: on ? { color: '#ffffff', widthMm: round(lettering.sizeMm * 0.06) } : null,
          })
        }
        className="text-small"
      >
        outline
      </Check>
      {lettering.outline && (
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5">
          <ColorField
            label="Outline color"
            showLabel={false}
            value={lettering.outline.color}
            onChange={(color) => put('Outline', { outline: { ...lettering.outline!, color } }, 'outline')}
          />
          {length(
            'wide',
            lettering.outline.widthMm,
            (widthMm) => put('Outline', { outline: { ...lettering.outline!, widthMm } }, 'outline'),
            { least: 0, most: 50 },
          )}
        </div>
      )}
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1.5">
        {length('box high', lettering.boxHeightMm, (boxHeightMm) => put('Height of the box', { boxHeightMm }, 'box'), {
          least: 1,
          most: 10_000,
        })}
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
      {lettering.shrinkToMm !== null &&
        length('not under', lettering.shrinkToMm, (shrinkToMm) => put('Smallest size', { shrinkToMm }, 'shrink'))}
    </div>
  );
}
