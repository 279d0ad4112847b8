import { ArrayMaxSize, IsArray, IsIn, IsInt, IsOptional, IsString, Length, Max, MaxLength, Min } from 'class-validator';
import { MANY_KINDS, RAISE_LEAST_PPM, RAISE_MOST_PPM, type ManyKind } from '@/core/range-changes';
import { WAYS, type Ending, type Way } from '@/core/pricing/rounding';
import { SendFoundDto, SendPairDto } from './sends';
import { Nested } from './shape';

const IDS_MAX = 2000;

/** A change of many products: which, and what is done with them. */
export class ChangeManyDto {
  @IsIn(MANY_KINDS, { message: `kind must be one of ${MANY_KINDS.join(', ')}` })
  kind: ManyKind;

  @IsOptional()
  @IsArray({ message: 'productIds must be a list' })
  @ArrayMaxSize(IDS_MAX, { message: `productIds can be ${IDS_MAX} at most; name what is found instead` })
  @IsString({ each: true, message: 'productIds must be ids of products' })
  @Length(1, 40, { each: true })
  productIds?: string[];

  @IsOptional()
  @IsArray({ message: 'listings must be a list' })
  @ArrayMaxSize(IDS_MAX, { message: `listings can be ${IDS_MAX} at most; name what is found instead` })
  @Nested(() => SendPairDto, { each: true })
  listings?: SendPairDto[];

  @IsOptional()
  @Nested(() => SendFoundDto)
  found?: SendFoundDto;

  @IsOptional()
  @IsString({ message: 'tag must be text' })
  @MaxLength(200, { message: 'tag must have up to 200 characters' })
  tag?: string;

  @IsOptional()
  @IsString({ message: 'ruleId must be the id of a price rule' })
  @Length(1, 40)
  ruleId?: string;

  @IsOptional()
  @IsInt({ message: 'ppm must be a whole number' })
  @Min(RAISE_LEAST_PPM, { message: `ppm must be ${RAISE_LEAST_PPM} or more` })
  @Max(RAISE_MOST_PPM, { message: `ppm must be ${RAISE_MOST_PPM} or less` })
  ppm?: number;

  @IsOptional()
  @IsString({ message: 'ending must be text' })
  @MaxLength(10, { message: 'ending must have up to 10 characters' })
  ending?: Ending;

  @IsOptional()
  @IsIn(WAYS, { message: `way must be one of ${WAYS.join(', ')}` })
  way?: Way;

  @IsOptional()
  @IsString({ message: 'blankId must be the id of a blank' })
  @Length(1, 40)
  blankId?: string;
}
