import 'reflect-metadata';
import { IsBoolean, IsISO8601, IsObject, IsOptional, IsString, Length, MaxLength } from 'class-validator';
import type { SaleTerms } from '@/core/pricing/sale';
import type { SaleScope } from '@/core/pricing/sale-scope';
import type { SalePlan } from '../../sales/sales';

export class SaleDto {
  @IsString({ message: 'name must be text' })
  @Length(1, 80, { message: 'name must have 1 to 80 characters' })
  name: string;

  /** Checked by the core. */
  @IsObject({ message: 'terms must be an object' })
  terms: object;

  /** Checked by the core. */
  @IsObject({ message: 'scope must be an object' })
  scope: object;

  @IsOptional()
  @IsString({ message: 'code must be text' })
  @MaxLength(24, { message: 'code must have up to 24 characters' })
  code?: string;

  @IsOptional()
  @IsBoolean({ message: 'acceptLosses must be true or false' })
  acceptLosses?: boolean;

  @IsISO8601({ strict: true }, { message: 'startsAt must be a moment such as 2026-12-01T09:00:00Z' })
  startsAt: string;

  @IsISO8601({ strict: true }, { message: 'endsAt must be a moment such as 2026-12-24T18:00:00Z' })
  endsAt: string;
}

const NO_SCOPE: SaleScope = { storeIds: [], productIds: [], kinds: [], tags: [] };

/** What was sent as a plan; parts of the scope that are not said are for all. */
export const planOf = ({ name, code, acceptLosses, terms, scope, startsAt, endsAt }: SaleDto): SalePlan => ({
  name,
  code,
  acceptLosses,
  terms: terms as SaleTerms,
  scope: { ...NO_SCOPE, ...scope },
  startsAt: new Date(startsAt),
  endsAt: new Date(endsAt),
});
