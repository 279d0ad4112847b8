import 'reflect-metadata';
import { IsEmail, IsISO4217CurrencyCode, IsISO31661Alpha2, IsString, Length, MaxLength } from 'class-validator';

export class SignInDto {
  @IsString({ message: 'email must be text' })
  @MaxLength(200)
  email: string;

  @IsString({ message: 'password must be text' })
  @MaxLength(500)
  password: string;
}

export class AccountDto {
  @IsEmail({}, { message: 'email must be an address such as you@example.org' })
  @MaxLength(200)
  email: string;

  @Length(1, 120, { message: 'name must have 1 to 120 characters' })
  name: string;

  @Length(10, 500, { message: 'password must have 10 characters or more' })
  password: string;

  @Length(1, 120, { message: 'workspaceName must have 1 to 120 characters' })
  workspaceName: string;

  @IsISO4217CurrencyCode({ message: 'currency must be a code such as GBP' })
  currency: string;

  @IsISO31661Alpha2({ message: 'country must be a code such as GB' })
  country: string;
}

export class TokenDto {
  @IsString()
  @Length(1, 120, { message: 'name must have 1 to 120 characters' })
  name: string;
}
