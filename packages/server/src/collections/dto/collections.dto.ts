/** What is asked of collections, with its bounds. */
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsISO8601,
  IsString,
  IsUUID,
  Matches,
  MaxLength,
  ValidateNested,
} from 'class-validator';
import type { CollectionId, CollectionView, MemberId, MemberOrder, SearchId, ShortcutId } from '@rellin/contract';
import { Optional, Nullable } from '../../http/validation.js';
import type {
  FolderSource,
  NewMembers,
  NewCollection,
  CollectionPatch,
  MemberIds,
  MemberMove,
  MemberKeep,
} from '@rellin/contract';
import { OriginalRefDto, TargetRefDto } from '../../http/shared.dto.js';

const TYPES = ['plain', 'mirror', 'working-set'];

const ORDERS: MemberOrder[] = ['own', 'name', 'kind', 'size', 'modified', 'added', 'opened', 'rate', 'reach'];

export class FolderSourceDto extends OriginalRefDto implements FolderSource {
  @Optional() @IsIn(['all', 'files', 'folders', 'programs']) only?: 'all' | 'files' | 'folders' | 'programs';
}

export class NewMembersDto implements NewMembers {
  @Optional() @IsArray() @ArrayMaxSize(10_000) @IsUUID(undefined, { each: true }) shortcutIds?: ShortcutId[];
  @Optional() @IsArray() @ArrayMaxSize(1000) @IsUUID(undefined, { each: true }) collectionIds?: CollectionId[];
  @Optional() @IsArray() @ArrayMaxSize(1000) @IsUUID(undefined, { each: true }) searchIds?: SearchId[];
  @Optional()
  @IsArray()
  @ArrayMaxSize(5000)
  @ValidateNested({ each: true })
  @Type(() => TargetRefDto)
  targets?: TargetRefDto[];
  @Optional() @ValidateNested() @Type(() => FolderSourceDto) fromFolder?: FolderSourceDto;
  /** The member that what is added stands before; the end by default. */
  @Optional() @IsUUID() before?: string;
}

export class NewCollectionDto extends NewMembersDto implements NewCollection {
  @IsString() @MaxLength(300) name: string;
  @Optional() @IsIn(TYPES) type?: CollectionView['type'];
  @Optional() @IsString() @MaxLength(20_000) description?: string;
  @Optional() @Matches(/^[a-z]{0,20}$/) colour?: string;
  @Optional() @IsString() @MaxLength(80) picture?: string;
  @Optional() @Nullable() @IsISO8601({ strict: true }) until?: string | null;
  @Optional() @IsUUID() parentId?: string;
  @Optional() @ValidateNested() @Type(() => OriginalRefDto) folder?: OriginalRefDto;
}

export class CollectionPatchDto implements CollectionPatch {
  @Optional() @IsString() @MaxLength(300) name?: string;
  @Optional() @IsString() @MaxLength(20_000) description?: string;
  @Optional() @Matches(/^[a-z]{0,20}$/) colour?: string;
  @Optional() @IsString() @MaxLength(80) picture?: string;
  @Optional() @IsIn(ORDERS) sortBy?: MemberOrder;
  @Optional() @IsIn(['auto', 'list', 'grid']) showAs?: CollectionView['showAs'];
  @Optional() @Nullable() @IsISO8601({ strict: true }) until?: string | null;
  @Optional() @Nullable() @IsString() @MaxLength(40) keys?: string | null;
  /** The state the page has seen; a later one refuses the change. */
  @Optional() @IsInt() revision?: number;
}

export class MemberIdsDto implements MemberIds {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(10_000) @IsUUID(undefined, { each: true }) memberIds: MemberId[];
}

export class MemberMoveDto extends MemberIdsDto implements MemberMove {
  /** The member they stand before; null for the end. */
  @Nullable() @IsUUID() before: string | null;
  @Optional() @IsInt() revision?: number;
}

export class MemberKeepDto extends MemberIdsDto implements MemberKeep {
  @IsBoolean() keepFirst: boolean;
}
