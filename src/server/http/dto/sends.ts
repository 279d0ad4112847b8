import 'reflect-metadata';
import {
  Allow,
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsISO8601,
  IsOptional,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import { MAX_LISTINGS } from '@/core/document/split';
import type { HoldsWhere } from '@/core/document/own-words';
import { CHANGED_KINDS, type ChangedKind } from '@/core/sync/changed';
import type { WantedVisibility } from '@/core/sync/send-step';
import { Nested } from './shape';

const IDS_MAX = 5000;

export class SendPairDto {
  @IsString({ message: 'productId must be the id of a product' })
  @Length(1, 40)
  productId: string;

  @IsString({ message: 'storeId must be the id of a store' })
  @Length(1, 40)
  storeId: string;
}

export class SendFoundDto {
  /** The parameters of an address of the range; empty: all products. */
  @IsString({ message: 'query must be text' })
  @MaxLength(4000, { message: 'query must have up to 4,000 characters' })
  query: string;
}

/** Which listings are to be sent: pairs, or products in stores, or what is found in stores. */
export class PlanSendDto {
  @IsOptional()
  @IsArray({ message: 'listings must be a list' })
  @ArrayMaxSize(IDS_MAX, { message: `listings can be ${IDS_MAX} at most; send what is found instead` })
  @Nested(() => SendPairDto, { each: true })
  listings?: SendPairDto[];

  @IsOptional()
  @IsArray({ message: 'productIds must be a list' })
  @ArrayMaxSize(IDS_MAX, { message: `productIds can be ${IDS_MAX} at most; send what is found instead` })
  @IsString({ each: true, message: 'productIds must be ids of products' })
  @Length(1, 40, { each: true })
  productIds?: string[];

  @IsOptional()
  @Nested(() => SendFoundDto)
  found?: SendFoundDto;

  @IsOptional()
  @IsArray({ message: 'storeIds must be a list' })
  @ArrayMaxSize(100, { message: 'storeIds can be 100 at most' })
  @IsString({ each: true, message: 'storeIds must be ids of stores' })
  @Length(1, 40, { each: true })
  storeIds?: string[];

  @IsIn(['draft', 'live', 'as-is'], { message: 'visibility must be draft, live or as-is' })
  visibility: WantedVisibility;
}

export class BeginSendDto {
  /** Absent: now. */
  @IsOptional()
  @IsISO8601({ strict: true }, { message: 'at must be a moment such as 2026-12-01T09:00:00Z' })
  at?: string;
}

export class FixDto {
  /** Broken rules that are to be fixed; absent: all that can be. */
  @IsOptional()
  @IsArray({ message: 'rules must be a list' })
  @ArrayMaxSize(50, { message: 'rules can be 50 at most' })
  @IsString({ each: true, message: 'rules must be ids of rules' })
  @Length(1, 40, { each: true })
  rules?: string[];

  /** These fixes; absent: the first for each rule. */
  @IsOptional()
  @IsArray({ message: 'ids must be a list' })
  @ArrayMaxSize(50, { message: 'ids can be 50 at most' })
  @IsString({ each: true, message: 'ids must be ids of fixes' })
  @Length(1, 60, { each: true })
  ids?: string[];

  /** Which of the product's listings in the store; absent: the first. */
  @IsOptional()
  @IsInt({ message: 'number must be a whole number' })
  @Min(1)
  @Max(MAX_LISTINGS)
  number?: number;

  @IsIn(['store', 'everywhere'], { message: 'where must be store or everywhere' })
  where: HoldsWhere;
}

export class SettleFieldDto {
  @IsString({ message: 'field must be the JSON pointer of a field that differs' })
  @Length(1, 600)
  field: string;

  /** Absent where a value is written. */
  @IsOptional()
  @IsIn(['ours', 'theirs'], { message: 'hold must be ours or theirs' })
  hold?: 'ours' | 'theirs';

  /** Written in place of both; checked against the field. */
  @Allow()
  value?: unknown;
}

/** Which side holds in fields of a kind, in all listings of a store. */
export class SettleManyDto {
  @IsIn(CHANGED_KINDS, { message: `kind must be one of ${CHANGED_KINDS.join(', ')}` })
  kind: ChangedKind;

  @IsIn(['ours', 'theirs'], { message: 'hold must be ours or theirs' })
  hold: 'ours' | 'theirs';
}

/** What became of the listings that a shop does not find. */
export class SayOfMissingDto {
  @IsBoolean({ message: 'deleted must be true or false' })
  deleted: boolean;
}

/** How a listing stands in its shop, as whoever leaves it so has seen it. */
export class LeaveDto {
  @IsIn(['draft', 'live'], { message: 'visibility must be draft or live' })
  visibility: 'draft' | 'live';
}

/** How what differs of a listing is settled: field by field, or all of it alike. */
export class SettleDto {
  @IsOptional()
  @IsArray({ message: 'fields must be a list' })
  @ArrayMaxSize(5000, { message: 'fields can be 5000 at most' })
  @Nested(() => SettleFieldDto, { each: true })
  fields?: SettleFieldDto[];

  @IsOptional()
  @IsIn(['ours', 'theirs'], { message: 'all must be ours or theirs' })
  all?: 'ours' | 'theirs';

  @IsString({ message: 'thereHash must be that of what the shop shows' })
  @Length(1, 100)
  thereHash: string;

  @IsIn(['store', 'everywhere'], { message: 'where must be store or everywhere' })
  where: HoldsWhere;

  /** Which of the product's listings in the store; absent: the first. */
  @IsOptional()
  @IsInt({ message: 'number must be a whole number' })
  @Min(1)
  @Max(MAX_LISTINGS)
  number?: number;
}
