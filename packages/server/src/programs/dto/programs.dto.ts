/** What is asked of programs, with its bounds. */
import { IsIn, IsString, Matches, MaxLength } from 'class-validator';
import { KINDS, type Kind } from '@rellin/core/kinds';
import { Optional, Nullable } from '../../http/validation.js';
import type { ProgramForKind, ProgramId, SuitedQuery, TellSystem } from '@rellin/contract';

export class SuitedQueryDto implements SuitedQuery {
  @IsString() @MaxLength(200) mime: string;
}

export class ProgramForKindDto implements ProgramForKind {
  @IsIn(KINDS) kind: Kind;
  @Nullable() @IsString() @MaxLength(500) programId: ProgramId | null;
}

export class TellSystemDto implements TellSystem {
  @IsIn(KINDS) kind: Kind;
  @IsString() @MaxLength(500) programId: ProgramId;
  @Optional() @Matches(/^[\w.+-]+\/[\w.+-]+$/) mime?: string;
}
