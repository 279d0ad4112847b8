import 'reflect-metadata';
import { IsInt, IsString, Length, Max, Min } from 'class-validator';

export class ConnectDto {
  @IsString({ message: 'channel must be the code of a channel' })
  @Length(1, 40)
  channel: string;
}

export class PartnerDto {
  @IsString({ message: 'partnerId must be the id of a print partner' })
  @Length(1, 40)
  partnerId: string;
}

export class StoreSettingsDto {
  @IsInt({ message: 'expectedSales must be a whole number' })
  @Min(1, { message: 'expectedSales must be 1 or more' })
  @Max(100000, { message: 'expectedSales must be at most 100000' })
  expectedSales: number;
}
