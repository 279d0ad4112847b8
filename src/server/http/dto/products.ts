import 'reflect-metadata';
import { IsIn, IsOptional, IsString, Length } from 'class-validator';

export class NewProductDto {
  @IsString({ message: 'blankId must be the id of a blank' })
  @Length(1, 40)
  blankId: string;

  @IsOptional()
  @IsString({ message: 'title must be text' })
  @Length(0, 500, { message: 'title must have at most 500 characters' })
  title?: string;
}

export class SendDto {
  @IsString({ message: 'storeId must be the id of a store' })
  @Length(1, 40)
  storeId: string;

  @IsIn(['draft', 'live'], { message: 'visibility must be draft or live' })
  visibility: 'draft' | 'live';
}
