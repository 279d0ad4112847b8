import 'reflect-metadata';
import { MAX_LISTINGS } from '@/core/document/split';
import { ArrayMaxSize, IsArray, IsIn, IsInt, IsOptional, IsString, Length, Max, Min, Matches } from 'class-validator';
import { MAX_RETAIL_MINOR } from '@/core/pricing/money';
import { Nested } from './shape';

export class NewVariantDto {
  @IsString({ message: 'a variant’s key must be text' })
  @Length(1, 200)
  key: string;

  @IsOptional()
  @IsString({ message: 'sku must be text' })
  @Length(1, 64, { message: 'sku must have 1 to 64 characters' })
  sku?: string;

  /** In minor units of the workspace's currency. */
  @IsOptional()
  @IsInt({ message: 'retailMinor must be a whole number of minor units' })
  @Min(1, { message: 'retailMinor must be above zero' })
  @Max(MAX_RETAIL_MINOR)
  retailMinor?: number;
}

export class NewProductDto {
  @IsString({ message: 'blankId must be the id of a blank' })
  @Length(1, 40)
  blankId: string;

  @IsOptional()
  @IsString({ message: 'title must be text' })
  @Length(0, 500, { message: 'title must have at most 500 characters' })
  title?: string;

  /** Variants chosen from the start. */
  @IsOptional()
  @IsArray({ message: 'variants must be a list' })
  @ArrayMaxSize(2000, { message: 'variants can be 2000 at most' })
  @Nested(() => NewVariantDto, { each: true })
  variants?: NewVariantDto[];
}

export class CopyDto {
  @IsOptional()
  @IsString({ message: 'title must be text' })
  @Length(0, 500, { message: 'title must have at most 500 characters' })
  title?: string;

  /** The blank that the copy is made on; absent: the same. */
  @IsOptional()
  @IsString({ message: 'blankId must be the id of a blank' })
  @Length(1, 40)
  blankId?: string;
}

export class SendDto {
  @IsString({ message: 'storeId must be the id of a store' })
  @Length(1, 40)
  storeId: string;

  /** Which of the product's listings in the store; absent: the first. */
  @IsOptional()
  @IsInt({ message: 'number must be a whole number' })
  @Min(1)
  @Max(MAX_LISTINGS)
  number?: number;

  @IsIn(['draft', 'live'], { message: 'visibility must be draft or live' })
  visibility: 'draft' | 'live';

  /** Of what the shop shows, as its listing was told: that is sent over, and nothing that came after. */
  @IsOptional()
  @Matches(/^[0-9a-f]{64}$/, { message: 'seenHash must be the thereHash of a listing' })
  seenHash?: string;
}
