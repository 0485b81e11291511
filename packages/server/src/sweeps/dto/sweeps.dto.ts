/** What is asked of sweeps, with its bounds. */
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsString,
  IsUUID,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import type { ClashChoice } from '@rellin/core/filing';
import type { Threshold } from '@rellin/core/sweep';
import type {
  NewSweep,
  OriginalId,
  PlaceId,
  RuleTarget,
  ShortcutId,
  SweepId,
  SweepIds,
  SweepMove,
  SweepPatch,
  SweepQuestion,
  SweepRequest,
  SweepRule,
} from '@rellin/contract';
import { CLASH_CHOICES, OriginalRefDto } from '../../http/shared.dto.js';
import { IsPlaceId, IsRowId, Nullable, Optional } from '../../http/validation.js';

const MOST_FOLDERS = 20;
const MOST_RULES = 100;
const MOST_MOVES = 1000;
const MOST_MINUTES = 60 * 24 * 30;
const MOST_DAYS = 3650;

class SweepRuleDto implements SweepRule {
  @IsString() @MaxLength(200) name: string;
  @IsIn(['query', 'duplicate']) when: 'query' | 'duplicate';
  @IsString() @MaxLength(20_000) query: string;
  @IsIn(['folder', 'bin', 'leave']) to: RuleTarget;
  @Optional() @IsUUID() shortcutId?: ShortcutId;
}

class ThresholdDto implements Threshold {
  @Nullable() @IsInt() @Min(1) @Max(1_000_000) things: number | null;
  @Nullable() @IsInt() @Min(1) @Max(Number.MAX_SAFE_INTEGER) size: number | null;
  @Nullable() @IsInt() @Min(1) @Max(MOST_DAYS) days: number | null;
}

export class SweepQuestionDto implements SweepQuestion {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_FOLDERS)
  @ValidateNested({ each: true })
  @Type(() => OriginalRefDto)
  folders: OriginalRefDto[];
  @IsArray()
  @ArrayMaxSize(MOST_RULES)
  @ValidateNested({ each: true })
  @Type(() => SweepRuleDto)
  rules: SweepRuleDto[];
  @IsInt() @Min(0) @Max(MOST_MINUTES) recentMinutes: number;
}

export class NewSweepDto extends SweepQuestionDto implements NewSweep {
  @IsString() @MaxLength(200) name: string;
  @ValidateNested() @Type(() => ThresholdDto) threshold: ThresholdDto;
  @IsInt() @Min(0) @Max(MOST_DAYS) linkDays: number;
  @IsBoolean() byItself: boolean;
}

export class SweepPatchDto implements SweepPatch {
  @Optional()
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_FOLDERS)
  @ValidateNested({ each: true })
  @Type(() => OriginalRefDto)
  folders?: OriginalRefDto[];
  @Optional()
  @IsArray()
  @ArrayMaxSize(MOST_RULES)
  @ValidateNested({ each: true })
  @Type(() => SweepRuleDto)
  rules?: SweepRuleDto[];
  @Optional() @IsInt() @Min(0) @Max(MOST_MINUTES) recentMinutes?: number;
  @Optional() @IsString() @MaxLength(200) name?: string;
  @Optional() @ValidateNested() @Type(() => ThresholdDto) threshold?: ThresholdDto;
  @Optional() @IsInt() @Min(0) @Max(MOST_DAYS) linkDays?: number;
  @Optional() @IsBoolean() byItself?: boolean;
}

class SweepIdsDto implements SweepIds {
  @IsPlaceId() placeId: PlaceId;
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(10_000) @IsInt({ each: true }) @Min(1, { each: true }) ids: OriginalId[];
}

class SweepMoveDto implements SweepMove {
  @IsIn(['folder', 'bin']) to: 'folder' | 'bin';
  @Optional() @IsPlaceId() placeId?: PlaceId;
  @Optional() @IsRowId() originalId?: OriginalId;
  @IsArray() @ArrayMaxSize(100) @ValidateNested({ each: true }) @Type(() => SweepIdsDto) things: SweepIdsDto[];
}

export class SweepRequestDto implements SweepRequest {
  @Optional() @IsUUID() sweepId?: SweepId;
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_FOLDERS)
  @ValidateNested({ each: true })
  @Type(() => OriginalRefDto)
  folders: OriginalRefDto[];
  @IsNumber() @Min(0) @Max(Number.MAX_SAFE_INTEGER) at: number;
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_MOVES)
  @ValidateNested({ each: true })
  @Type(() => SweepMoveDto)
  moves: SweepMoveDto[];
  @Optional() @IsIn(CLASH_CHOICES) clash?: ClashChoice;
  @IsInt() @Min(0) @Max(MOST_DAYS) linkDays: number;
  @IsIn(['none', 'saved', 'pinned']) search: 'none' | 'saved' | 'pinned';
}
