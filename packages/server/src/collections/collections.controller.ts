import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Patch, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
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
import type { CollectionView, MemberOrder } from '@rellin/contract';
import { CollectionsService } from './collections.service.js';
import { Optional, Nullable, IsPlaceId, IsRowId } from '../http/validation.js';

const TYPES = ['plain', 'mirror', 'working-set'];
const ORDERS: MemberOrder[] = ['own', 'name', 'kind', 'size', 'modified', 'added', 'opened', 'rate', 'reach'];

export class FolderRef {
  @IsPlaceId() placeId: number;
  @IsRowId() originalId: number;
}

export class FolderSource extends FolderRef {
  @Optional() @IsIn(['all', 'files', 'folders', 'programs']) only?: 'all' | 'files' | 'folders' | 'programs';
}

/** Something without a shortcut so far, or with one: an original or a program. */
export class TargetRef {
  @Optional() @IsPlaceId() placeId?: number;
  @Optional() @IsRowId() originalId?: number;
  @Optional() @IsString() @MaxLength(500) programId?: string;
  @Optional() @IsString() @MaxLength(8192) typed?: string;
}

export class AdditionsBody {
  @Optional() @IsArray() @ArrayMaxSize(10_000) @IsUUID(undefined, { each: true }) shortcutIds?: string[];
  @Optional() @IsArray() @ArrayMaxSize(1000) @IsUUID(undefined, { each: true }) collectionIds?: string[];
  @Optional() @IsArray() @ArrayMaxSize(1000) @IsUUID(undefined, { each: true }) searchIds?: string[];
  @Optional()
  @IsArray()
  @ArrayMaxSize(5000)
  @ValidateNested({ each: true })
  @Type(() => TargetRef)
  targets?: TargetRef[];
  @Optional() @ValidateNested() @Type(() => FolderSource) fromFolder?: FolderSource;
  /** The member that what is added stands before; the end by default. */
  @Optional() @IsUUID() before?: string;
}

export class NewCollectionBody extends AdditionsBody {
  @IsString() @MaxLength(300) name: string;
  @Optional() @IsIn(TYPES) type?: CollectionView['type'];
  @Optional() @IsString() @MaxLength(20_000) description?: string;
  @Optional() @Matches(/^[a-z]{0,20}$/) colour?: string;
  @Optional() @IsString() @MaxLength(80) picture?: string;
  @Optional() @Nullable() @IsISO8601({ strict: true }) until?: string | null;
  @Optional() @IsUUID() parentId?: string;
  @Optional() @ValidateNested() @Type(() => FolderRef) folder?: FolderRef;
}

export class CollectionPatch {
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

export class MemberIds {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(10_000) @IsUUID(undefined, { each: true }) memberIds: string[];
}

export class MemberMove extends MemberIds {
  /** The member they stand before; null for the end. */
  @Nullable() @IsUUID() before: string | null;
  @Optional() @IsInt() revision?: number;
}

export class MemberKeep extends MemberIds {
  @IsBoolean() keepFirst: boolean;
}

export class CollectionsQuery {
  @Optional() @IsIn(['catalogue', 'bin']) from?: 'catalogue' | 'bin';
}

@ApiTags('collections')
@Controller('collections')
export class CollectionsController {
  constructor(private readonly collections: CollectionsService) {}

  @Get()
  list(@Query() query: CollectionsQuery) {
    return this.collections.list(query.from === 'bin');
  }

  @Post()
  async add(@Body() body: NewCollectionBody) {
    return this.collections.one(await this.collections.add(body));
  }

  @Get(':id')
  one(@Param('id', ParseUUIDPipe) id: string) {
    return this.collections.one(id);
  }

  @Patch(':id')
  async change(@Param('id', ParseUUIDPipe) id: string, @Body() { revision, ...patch }: CollectionPatch) {
    await this.collections.change(id, patch, revision);
    return this.collections.one(id);
  }

  @Delete(':id')
  @HttpCode(204)
  remove(@Param('id', ParseUUIDPipe) id: string) {
    return this.collections.remove([id]);
  }

  @Post(':id/put-back')
  @HttpCode(204)
  putBack(@Param('id', ParseUUIDPipe) id: string) {
    return this.collections.putBack(id);
  }

  @Get(':id/members')
  members(@Param('id', ParseUUIDPipe) id: string) {
    return this.collections.members(id);
  }

  @Post(':id/members')
  @HttpCode(200)
  async addMembers(@Param('id', ParseUUIDPipe) id: string, @Body() { before, ...additions }: AdditionsBody) {
    return { added: await this.collections.addMembers(id, additions, before) };
  }

  @Post(':id/members/remove')
  @HttpCode(204)
  removeMembers(@Param('id', ParseUUIDPipe) id: string, @Body() { memberIds }: MemberIds) {
    return this.collections.removeMembers(id, memberIds);
  }

  @Post(':id/members/move')
  @HttpCode(200)
  async moveMembers(@Param('id', ParseUUIDPipe) id: string, @Body() { memberIds, before, revision }: MemberMove) {
    await this.collections.moveMembers(id, memberIds, before, revision);
    return this.collections.members(id);
  }

  @Post(':id/members/keep-first')
  @HttpCode(204)
  keepFirst(@Param('id', ParseUUIDPipe) id: string, @Body() { memberIds, keepFirst }: MemberKeep) {
    return this.collections.keepFirst(id, memberIds, keepFirst);
  }

  @Post(':id/empty')
  @HttpCode(200)
  async empty(@Param('id', ParseUUIDPipe) id: string) {
    return { removed: await this.collections.empty(id) };
  }

  @Post(':id/bring-back')
  @HttpCode(200)
  async bringBack(@Param('id', ParseUUIDPipe) id: string) {
    return { added: await this.collections.bringBack(id) };
  }
}
