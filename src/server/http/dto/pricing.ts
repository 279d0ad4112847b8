import 'reflect-metadata';
import { ArrayMaxSize, IsArray, IsBoolean, IsObject, IsOptional, IsString, Length, Matches } from 'class-validator';

export class PriceRuleDto {
  @IsString({ message: 'name must be text' })
  @Length(1, 80, { message: 'name must have 1 to 80 characters' })
  name: string;

  /** Checked by the core. */
  @IsObject({ message: 'rule must be an object' })
  rule: object;

  @IsBoolean({ message: 'forNew must be true or false' })
  forNew: boolean;
}

export class RateDto {
  @Matches(/^[A-Z]{3}$/, { message: 'from must be a currency code of three letters, such as GBP' })
  from: string;

  @Matches(/^[A-Z]{3}$/, { message: 'to must be a currency code of three letters, such as USD' })
  to: string;

  /** A decimal as text, so that it is exact. */
  @Matches(/^\d{1,9}(\.\d{1,10})?$/, { message: 'rate must be a number above zero with a point, such as 1.2744' })
  rate: string;

  @Matches(/^\d{4}-\d{2}-\d{2}$/, { message: 'date must be written as 2026-11-28' })
  date: string;

  /** That a rate far from the one that holds is meant. */
  @IsOptional()
  @IsBoolean({ message: 'sure must be true or false' })
  sure?: boolean;
}

export class SplitDto {
  @IsArray({ message: 'variantKeys must be a list' })
  @ArrayMaxSize(2000, { message: 'variantKeys can be 2000 at most' })
  @IsString({ each: true, message: 'variantKeys must be texts' })
  variantKeys: string[];

  @IsString({ message: 'title must be text' })
  @Length(0, 500, { message: 'title must have at most 500 characters' })
  title: string;
}

export class RuleToManyDto {
  @IsString({ message: 'ruleId must be the id of a price rule' })
  @Length(1, 40)
  ruleId: string;

  @IsArray({ message: 'kinds must be a list' })
  @ArrayMaxSize(50, { message: 'kinds can be 50 at most' })
  @IsString({ each: true, message: 'kinds must be texts' })
  kinds: string[];

  @IsArray({ message: 'tags must be a list' })
  @ArrayMaxSize(50, { message: 'tags can be 50 at most' })
  @IsString({ each: true, message: 'tags must be texts' })
  tags: string[];
}
