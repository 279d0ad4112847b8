import 'reflect-metadata';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';

/** A place on a photograph, px. */
export class PointDto {
  @IsNumber({ allowNaN: false, allowInfinity: false }, { message: 'a mark’s x must be a number' })
  x: number;

  @IsNumber({ allowNaN: false, allowInfinity: false }, { message: 'a mark’s y must be a number' })
  y: number;
}

/** All kinds of marks in one: which members are needed is for `marksOf` to say. */
export class MarksDto {
  @IsIn(['corners', 'cylinder', 'mesh'], { message: 'marks.kind must be corners, cylinder or mesh' })
  kind: 'corners' | 'cylinder' | 'mesh';

  @IsOptional()
  @IsArray({ message: 'marks.points must be a list of places' })
  @ArrayMaxSize(81, { message: 'a mesh has 81 points at most' })
  @ValidateNested({ each: true })
  @Type(() => PointDto)
  points?: PointDto[];

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

export class PickDto extends PointDto {
  @IsNumber({ allowNaN: false, allowInfinity: false }, { message: 'tolerance must be a number' })
  @Min(0)
  @Max(255, { message: 'tolerance must be 0 to 255' })
  tolerance: number;
}

export class StrokeDto {
  @IsBoolean({ message: 'add must be true or false' })
  add: boolean;

  @IsNumber({ allowNaN: false, allowInfinity: false }, { message: 'radiusPx must be a number' })
  @Min(0.5)
  @Max(2000, { message: 'radiusPx must be 0.5 to 2000' })
  radiusPx: number;

  @IsArray({ message: 'a stroke needs its points' })
  @ArrayMaxSize(2000, { message: 'a stroke has 2000 points at most' })
  @ValidateNested({ each: true })
  @Type(() => PointDto)
  points: PointDto[];
}

/** What takes the fabric's color: picked places, and strokes over them. */
export class PartDto {
  @IsArray({ message: 'picks must be a list' })
  @ArrayMaxSize(40, { message: 'picks can be 40 at most' })
  @ValidateNested({ each: true })
  @Type(() => PickDto)
  picks: PickDto[];

  @IsArray({ message: 'strokes must be a list' })
  @ArrayMaxSize(400, { message: 'strokes can be 400 at most' })
  @ValidateNested({ each: true })
  @Type(() => StrokeDto)
  strokes: StrokeDto[];
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
  @IsObject({ message: 'variant must be an object of option values' })
  variant?: Record<string, string>;

  @ValidateNested()
  @Type(() => MarksDto)
  marks: MarksDto;

  /** Absent or null: the good keeps the color that it has in the photograph. */
  @IsOptional()
  @ValidateNested()
  @Type(() => PartDto)
  part?: PartDto | null;
}
