import 'reflect-metadata';
import { ArrayMaxSize, IsArray, IsIn, IsInt, IsNumber, IsOptional, IsString, Length, Max, Min } from 'class-validator';
import { CheckedBy, Nested } from './shape';

const isNumber = (value: unknown): boolean => typeof value === 'number' && Number.isFinite(value);
const hasOnly = (value: unknown, ...keys: string[]): value is Record<string, unknown> =>
  typeof value === 'object' &&
  value !== null &&
  Object.keys(value).length === keys.length &&
  keys.every((key) => Object.hasOwn(value, key));

/** A place on a photograph, px. */
export interface Place {
  readonly x: number;
  readonly y: number;
}
const isPlace = (value: unknown): boolean => hasOnly(value, 'x', 'y') && isNumber(value.x) && isNumber(value.y);

const places =
  (most: number) =>
  (value: unknown): string | null => {
    if (!Array.isArray(value)) return 'must be a list of places';
    if (value.length > most) return `can be ${most} at most`;
    return value.every(isPlace) ? null : 'must each be an object with the numbers x and y, and nothing else';
  };

/** One line drawn with a round brush that adds to what takes the fabric's color, or takes from it. */
export interface Stroke {
  readonly add: boolean;
  readonly radiusPx: number;
  readonly points: readonly Place[];
}
const MAX_STROKES = 400;
const MAX_STROKE_POINTS = 40_000;

/** Strokes hold tens of thousands of points: they are checked in one pass. */
function strokesFault(value: unknown): string | null {
  if (!Array.isArray(value)) return 'must be a list';
  if (value.length > MAX_STROKES) return `can be ${MAX_STROKES} at most`;
  let points = 0;
  for (const stroke of value) {
    if (!hasOnly(stroke, 'add', 'radiusPx', 'points') || typeof stroke.add !== 'boolean')
      return 'must each have add (true or false), radiusPx and points, and nothing else';
    if (!isNumber(stroke.radiusPx) || (stroke.radiusPx as number) < 0.5 || (stroke.radiusPx as number) > 2000)
      return 'must each have a radiusPx of 0.5 to 2000';
    const fault = places(2000)(stroke.points);
    if (fault) return `have points that ${fault}`;
    points += (stroke.points as unknown[]).length;
  }
  return points > MAX_STROKE_POINTS ? `can have ${MAX_STROKE_POINTS} points in all` : null;
}

/** Values by option: `{ "size": "11oz" }`. */
function optionValuesFault(value: unknown): string | null {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return 'must be an object of option values';
  const entries = Object.entries(value);
  if (entries.length > 12) return 'has more options than any blank';
  return entries.every(([code, one]) => code.length <= 60 && typeof one === 'string' && one.length <= 60)
    ? null
    : 'must have a text of up to 60 characters for each option';
}

/** All kinds of marks in one: which members are needed is for `marksOf` to say. */
export class MarksDto {
  @IsIn(['corners', 'cylinder', 'mesh'], { message: 'marks.kind must be corners, cylinder or mesh' })
  kind: 'corners' | 'cylinder' | 'mesh';

  @IsOptional()
  @CheckedBy(places(81))
  points?: Place[];

  @IsOptional()
  @IsNumber({ allowNaN: false, allowInfinity: false }, { message: 'bendTopPx must be a number' })
  bendTopPx?: number;

  @IsOptional()
  @IsNumber({ allowNaN: false, allowInfinity: false }, { message: 'bendBottomPx must be a number' })
  bendBottomPx?: number;

  @IsOptional()
  @IsNumber({ allowNaN: false, allowInfinity: false }, { message: 'spanDeg must be a number' })
  spanDeg?: number;

  @IsOptional()
  @IsNumber({ allowNaN: false, allowInfinity: false }, { message: 'diameterMm must be a number' })
  diameterMm?: number;

  @IsOptional()
  @IsNumber({ allowNaN: false, allowInfinity: false }, { message: 'middleMm must be a number' })
  middleMm?: number;

  @IsOptional()
  @IsInt({ message: 'columns must be a whole number' })
  columns?: number;

  @IsOptional()
  @IsInt({ message: 'rows must be a whole number' })
  rows?: number;
}

export class PickDto {
  @IsNumber({ allowNaN: false, allowInfinity: false }, { message: 'a pick’s x must be a number' })
  x: number;

  @IsNumber({ allowNaN: false, allowInfinity: false }, { message: 'a pick’s y must be a number' })
  y: number;

  @IsNumber({ allowNaN: false, allowInfinity: false }, { message: 'tolerance must be a number' })
  @Min(0)
  @Max(255, { message: 'tolerance must be 0 to 255' })
  tolerance: number;
}

/** What takes the fabric's color: picked places, and strokes over them. */
export class PartDto {
  @IsArray({ message: 'picks must be a list' })
  @ArrayMaxSize(40, { message: 'picks can be 40 at most' })
  @Nested(() => PickDto, { each: true })
  picks: PickDto[];

  @CheckedBy(strokesFault)
  strokes: Stroke[];
}

export class OwnShotDto {
  @IsString({ message: 'photographId must be the id of a photograph' })
  @Length(1, 40)
  photographId: string;

  @IsString({ message: 'name must be text' })
  @Length(1, 80, { message: 'name must have 1 to 80 characters' })
  name: string;

  @IsString({ message: 'areaKey must be the key of a print area' })
  @Length(1, 80)
  areaKey: string;

  /** Option values of a variant in whose shape the marks are meant. */
  @IsOptional()
  @CheckedBy(optionValuesFault)
  variant?: Record<string, string>;

  @Nested(() => MarksDto)
  marks: MarksDto;

  /** Absent or null: the good keeps the color that it has in the photograph. */
  @IsOptional()
  @Nested(() => PartDto)
  part?: PartDto | null;
}
