import 'reflect-metadata';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  ValidateIf,
} from 'class-validator';
import { LANGUAGES } from '@/core/words/languages';
import { SIZES_IN, type SizesIn } from '@/core/catalog/size-guide';
import { SQUARES, type Squares } from '@/core/listing/picture-format';
import { RENEWALS, SENDS_AS, type Renewal, type SendsAs } from '../../stores/stores';
import { AIMS_AT, type AimsAt } from '@/core/pricing/outlet';
import { FEE_SCOPES, type FeeScope } from '../../stores/fees';

export class ConnectDto {
  @IsString({ message: 'channel must be the code of a channel' })
  @Length(1, 40)
  channel: string;

  /** Where the channel has regions. */
  @IsOptional()
  @IsString({ message: 'region must be the code of a region of the channel' })
  @Length(1, 20)
  region?: string;
}

export class NewStoreDto extends ConnectDto {
  /** What the seller pasted, by the names that the channel has for it. */
  @IsObject({ message: 'keys must be an object of texts' })
  keys: Record<string, unknown>;
}

export class PartnerDto {
  @IsString({ message: 'partnerId must be the id of a print partner' })
  @Length(1, 40)
  partnerId: string;
}

export class StoreSettingsDto {
  @IsOptional()
  @IsString({ message: 'name must be text' })
  @Matches(/\S/, { message: 'name must not be empty' })
  @Length(1, 160)
  name?: string;

  /** Checked by the core. */
  @IsOptional()
  @IsObject({ message: 'answers must be an object' })
  answers?: object;

  @IsOptional()
  @IsInt({ message: 'expectedSales must be a whole number' })
  @Min(1, { message: 'expectedSales must be 1 or more' })
  @Max(100000, { message: 'expectedSales must be at most 100000' })
  expectedSales?: number;

  @IsOptional()
  @IsIn(RENEWALS, { message: `renewal must be one of ${RENEWALS.join(', ')}` })
  renewal?: Renewal;

  /** Checked by the core; null takes it back. */
  @ValidateIf(({ priceRule }: StoreSettingsDto) => priceRule !== null && priceRule !== undefined)
  @IsObject({ message: 'priceRule must be an object, or null for none' })
  priceRule?: object | null;

  @IsOptional()
  @IsIn(SENDS_AS, { message: `sendsAs must be one of ${SENDS_AS.join(', ')}` })
  sendsAs?: SendsAs;

  /** Null takes it back. */
  @IsOptional()
  @IsIn(LANGUAGES, { message: `language must be one of ${LANGUAGES.join(', ')}, or null` })
  language?: string | null;

  /** Null: sizes are not told. */
  @IsOptional()
  @IsIn(SIZES_IN, { message: `sizesIn must be one of ${SIZES_IN.join(', ')}, or null` })
  sizesIn?: SizesIn | null;

  /** Null: by a margin. */
  @IsOptional()
  @IsIn(SQUARES, { message: `squares must be one of ${SQUARES.join(', ')}, or null` })
  squares?: Squares | null;

  /** Checked by the core. */
  @IsOptional()
  @IsObject({ message: 'standing must be an object' })
  standing?: object;

  @IsOptional()
  @IsIn(AIMS_AT, { message: `aimsAt must be one of ${AIMS_AT.join(', ')}` })
  aimsAt?: AimsAt;
}

export class FeesDto {
  /** Checked by the core. */
  @ValidateIf(({ fees }: FeesDto) => fees !== null)
  @IsArray({ message: 'fees must be a list, or null for those that the shop publishes' })
  @ArrayMaxSize(100, { message: 'fees can be 100 at most' })
  fees: object[] | null;

  @IsIn(FEE_SCOPES, { message: `scope must be one of ${FEE_SCOPES.join(', ')}` })
  scope: FeeScope;
}
