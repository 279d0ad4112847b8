import 'reflect-metadata';
import { IsArray, IsIn, IsInt, IsOptional, IsString, Length, Max, Min, ValidateIf } from 'class-validator';

export class DerivationDto {
  @IsIn(['trim', 'background', 'solid', 'enlarge'], { message: 'kind must be trim, background, solid or enlarge' })
  kind: 'trim' | 'background' | 'solid' | 'enlarge';

  /** Of the enlarged artwork. */
  @ValidateIf((dto: DerivationDto) => dto.kind === 'enlarge')
  @IsInt({ message: 'widthPx must be a whole number of pixels' })
  @Min(1)
  @Max(60_000)
  widthPx: number;
}

export class ArtworkChangeDto {
  @IsOptional()
  @IsString({ message: 'name must be text' })
  @Length(1, 200, { message: 'name must have 1 to 200 characters' })
  name?: string;

  @IsOptional()
  @IsArray({ message: 'tags must be a list' })
  @IsString({ each: true, message: 'a tag must be text' })
  @Length(1, 40, { each: true, message: 'a tag must have 1 to 40 characters' })
  tags?: string[];
}

export class ReplacementDto {
  @IsString({ message: 'with must be the id of an artwork' })
  @Length(1, 40)
  with: string;
}
