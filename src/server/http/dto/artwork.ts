import 'reflect-metadata';
import { IsIn, IsInt, Max, Min, ValidateIf } from 'class-validator';

export class DerivationDto {
  @IsIn(['trim', 'background', 'solid', 'enlarge'], { message: 'kind must be trim, background, solid or enlarge' })
  kind: 'trim' | 'background' | 'solid' | 'enlarge';

  /** Of the enlarged artwork. */
  @ValidateIf((dto: DerivationDto) => dto.kind === 'enlarge')
  @IsInt({ message: 'widthPx must be a whole number of pixels' })
  @Min(1)
  @Max(60_000)
  widthPx: number;
}
