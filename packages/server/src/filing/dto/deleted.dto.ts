/** What is asked of the bins of the disk, with its bounds. */
import { Type } from 'class-transformer';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsBoolean, IsIn, Matches, ValidateNested } from 'class-validator';
import type { ClashChoice } from '@rellin/core/filing';
import type { DeletedId, DeleteRequest, ExpungeRequest, RestoreRequest } from '@rellin/contract';
import { CLASH_CHOICES, OriginalRefsDto } from '../../http/shared.dto.js';
import { FilingTargetDto } from './filing.dto.js';
import { Optional } from '../../http/validation.js';

const MOST = 10_000;
/** As bins.service.ts makes them. */
const ID = /^[\w-]{24}$/;

export class DeleteRequestDto extends OriginalRefsDto implements DeleteRequest {
  @Optional() @IsBoolean() acrossVolumes?: boolean;
}

export class RestoreRequestDto implements RestoreRequest {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(MOST) @Matches(ID, { each: true }) ids: DeletedId[];
  @Optional() @ValidateNested() @Type(() => FilingTargetDto) into?: FilingTargetDto;
  @Optional() @IsIn(CLASH_CHOICES) clash?: ClashChoice;
}

export class ExpungeRequestDto implements ExpungeRequest {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(MOST) @Matches(ID, { each: true }) ids: DeletedId[];
}
