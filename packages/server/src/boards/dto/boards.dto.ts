/** What is asked of boards, with its bounds. */
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
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { REGION_ORDERS, type RegionOrder } from '@rellin/core/board';
import { Optional } from '../../http/validation.js';
import type {
  Arrange,
  BoardItemId,
  BoardPatch,
  BundleId,
  BundlePatch,
  ItemIds,
  Laid,
  NewBoard,
  NewBundle,
  NewRegion,
  RegionId,
  RegionMove,
  RegionPatch,
  ShortcutId,
  Spot,
} from '@rellin/contract';
import { TargetRefDto } from '../../http/shared.dto.js';

const MOST_COLUMNS = 12;

const MOST_ROWS = 10_000;

export class NewBoardDto implements NewBoard {
  @IsString() @MaxLength(300) name: string;
  @Optional() @IsInt() @Min(1) @Max(MOST_COLUMNS) columns?: number;
}

export class BoardPatchDto implements BoardPatch {
  @Optional() @IsString() @MaxLength(300) name?: string;
  @Optional() @IsInt() @Min(1) @Max(MOST_COLUMNS) columns?: number;
}

export class NewRegionDto implements NewRegion {
  @IsString() @MaxLength(300) name: string;
  @Optional() @IsIn(REGION_ORDERS) order?: RegionOrder;
}

export class RegionPatchDto implements RegionPatch {
  @Optional() @IsString() @MaxLength(300) name?: string;
  @Optional() @IsIn(REGION_ORDERS) order?: RegionOrder;
}

export class RegionMoveDto implements RegionMove {
  /** The region it stands above; null for the lowest. */
  @ValidateIf((_: object, value: unknown) => value !== null) @IsUUID() before: string | null;
}

export class ArrangeDto implements Arrange {
  @IsIn(REGION_ORDERS.filter((order) => order !== 'free')) by: Exclude<RegionOrder, 'free'>;
}

/** A spot, in cells from a region's corner. */
export class SpotDto implements Spot {
  @Optional() @IsUUID() regionId?: RegionId;
  @Optional() @IsNumber() @Min(0) @Max(MOST_COLUMNS) x?: number;
  @Optional() @IsNumber() @Min(0) @Max(MOST_ROWS) y?: number;
  /** Exactly there, not in the nearest cell. */
  @Optional() @IsBoolean() exact?: boolean;
}

export class LaidDto extends SpotDto implements Laid {
  @Optional() @IsArray() @ArrayMaxSize(2000) @IsUUID(undefined, { each: true }) shortcutIds?: ShortcutId[];
  @Optional()
  @IsArray()
  @ArrayMaxSize(2000)
  @ValidateNested({ each: true })
  @Type(() => TargetRefDto)
  targets?: TargetRefDto[];
  /** The item or bundle that they stand before; the end by default. */
  @Optional() @IsUUID() before?: string;
  @Optional() @IsUUID() bundleId?: BundleId;
}

export class ItemIdsDto implements ItemIds {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(2000) @IsUUID(undefined, { each: true }) itemIds: BoardItemId[];
}

/** These under one bracket; or, without them, everything by kind. */
export class NewBundleDto implements NewBundle {
  @Optional()
  @IsArray()
  @ArrayMinSize(2)
  @ArrayMaxSize(2000)
  @IsUUID(undefined, { each: true })
  itemIds?: BoardItemId[];
  @Optional() @IsString() @MaxLength(300) name?: string;
  @Optional() @IsUUID() regionId?: RegionId;
}

export class BundlePatchDto extends SpotDto implements BundlePatch {
  @Optional() @IsString() @MaxLength(300) name?: string;
}
