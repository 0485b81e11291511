import { Body, Controller, Get, HttpCode, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsString,
  IsUUID,
  MaxLength,
  ValidateNested,
} from 'class-validator';
import { CheckUpService } from './checkUp.service.js';
import { Optional, IsPlaceId, IsRowId } from '../http/validation.js';

const MOST = 20_000;

export class Point {
  @IsUUID() shortcutId: string;
  @IsPlaceId() placeId: number;
  @IsRowId() originalId: number;
}

/** A folder that moved, in words for the journal. */
export class Moved {
  @IsString() @MaxLength(8192) from: string;
  @IsString() @MaxLength(8192) to: string;
}

export class PointBody {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(MOST) @ValidateNested({ each: true }) @Type(() => Point) points: Point[];
  @Optional() @ValidateNested() @Type(() => Moved) moved?: Moved;
}

export class LeaveBody {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(MOST) @IsUUID(undefined, { each: true }) shortcutIds: string[];
  @IsBoolean() leftAlone: boolean;
}

export class SilenceBody {
  @IsString() @MaxLength(100_000) id: string;
}

@ApiTags('check-up')
@Controller('check-up')
export class CheckUpController {
  constructor(private readonly checkUp: CheckUpService) {}

  @Get()
  view() {
    return this.checkUp.view();
  }

  @Get('review')
  review() {
    return this.checkUp.review();
  }

  /** Begins; how it goes on is told with the activity, where it can be stopped. */
  @Post('now')
  @HttpCode(202)
  now() {
    void this.checkUp.now().catch(() => undefined);
  }

  @Post('point')
  @HttpCode(204)
  point(@Body() body: PointBody) {
    return this.checkUp.point(body.points, body.moved);
  }

  @Post('leave')
  @HttpCode(204)
  leave(@Body() body: LeaveBody) {
    return this.checkUp.leave(body.shortcutIds, body.leftAlone);
  }

  @Post('silence')
  @HttpCode(204)
  silence(@Body() body: SilenceBody) {
    return this.checkUp.silence(body.id);
  }
}
