import 'reflect-metadata';
import { IsIn, IsObject, Matches, MaxLength } from 'class-validator';
import { MAX_SET_NAME, SET_KINDS, type SetContent, type SetKind } from '@/core/named-sets';

const NAME = `Enter a name of up to ${MAX_SET_NAME} characters`;

export class NamedSetDto {
  @IsIn(SET_KINDS, { message: `kind must be one of ${SET_KINDS.join(', ')}` })
  kind: SetKind;

  @Matches(/\S/, { message: NAME })
  @MaxLength(MAX_SET_NAME, { message: NAME })
  name: string;

  /** What is in it is looked at by its kind. */
  @IsObject({ message: 'content must be an object' })
  content: SetContent;
}

export class SetNameDto {
  @Matches(/\S/, { message: NAME })
  @MaxLength(MAX_SET_NAME, { message: NAME })
  name: string;
}
