import 'reflect-metadata';
import {
  ArrayMaxSize,
  IsArray,
  IsEmail,
  IsIn,
  IsInt,
  isISO31661Alpha2,
  IsOptional,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import { isCurrency } from '@/core/pricing/money';
import { SCOPES, type Scope } from '../../people/scopes';
import { MAX_DAYS } from '../../people/tokens';
import { CheckedBy } from './shape';

const isCapitals = (value: unknown): value is string => typeof value === 'string' && /^[A-Z]+$/.test(value);
const isCountry = (value: unknown) => isCapitals(value) && isISO31661Alpha2(value);

export class SignInDto {
  @IsString({ message: 'email must be text' })
  @MaxLength(200)
  email: string;

  @IsString({ message: 'password must be text' })
  @MaxLength(500)
  password: string;
}

export class AccountDto {
  @IsEmail({}, { message: 'Enter an email address, such as you@example.org' })
  @MaxLength(200, { message: 'Enter an email address of up to 200 characters' })
  email: string;

  @Length(1, 120, { message: 'Enter your name, up to 120 characters' })
  name: string;

  @Length(10, 500, { message: 'Enter a password of 10 characters or more' })
  password: string;

  @Length(1, 120, { message: 'Enter the name of your business, up to 120 characters' })
  workspaceName: string;

  @CheckedBy((value) =>
    isCapitals(value) && isCurrency(value) ? null : 'must be a currency’s code in capitals, such as GBP',
  )
  currency: string;

  @CheckedBy((value) => (isCountry(value) ? null : 'must be a country’s code of two capitals, such as GB'))
  country: string;
}

export class PersonDto {
  @IsOptional()
  @Length(1, 120, { message: 'Enter your name, up to 120 characters' })
  name?: string;

  @IsOptional()
  @IsEmail({}, { message: 'Enter an email address, such as you@example.org' })
  @MaxLength(200, { message: 'Enter an email address of up to 200 characters' })
  email?: string;

  @IsOptional()
  @Length(10, 500, { message: 'Enter a password of 10 characters or more' })
  password?: string;

  /** Needed for a new email or password. */
  @IsOptional()
  @IsString({ message: 'Enter your current password' })
  @MaxLength(500, { message: 'Enter your current password' })
  currentPassword?: string;
}

export class WorkspaceDto {
  @IsOptional()
  @Length(1, 120, { message: 'Enter the name of your business, up to 120 characters' })
  name?: string;

  @IsOptional()
  @CheckedBy((value) =>
    isCapitals(value) && isCurrency(value) ? null : 'must be a currency’s code in capitals, such as GBP',
  )
  currency?: string;

  @IsOptional()
  @CheckedBy((value) => (isCountry(value) ? null : 'must be a country’s code of two capitals, such as GB'))
  country?: string;
}

export class TokenDto {
  @IsString()
  @Length(1, 120, { message: 'name must have 1 to 120 characters' })
  name: string;

  /** What it may do; all of it when absent. */
  @IsOptional()
  @IsArray({ message: 'scopes must be a list' })
  @ArrayMaxSize(SCOPES.length)
  @IsIn(SCOPES, { each: true, message: `a scope must be one of ${SCOPES.join(', ')}` })
  scopes?: Scope[];

  @IsOptional()
  @IsInt({ message: 'days must be a whole number' })
  @Min(1, { message: 'days must be 1 or more' })
  @Max(MAX_DAYS, { message: `days can be ${MAX_DAYS} at most` })
  days?: number;
}
