/** What is asked of aliases, with its bounds. */
import { Type } from 'class-transformer';
import { IsBoolean, IsIn, IsString, IsUUID, MaxLength, ValidateIf, ValidateNested } from 'class-validator';
import type { PublicationSource, ShortcutId } from '@rellin/contract';
import { Optional } from '../../http/validation.js';
import type { NewAlias, PublishRequest, TakeLink } from '@rellin/contract';
import { OriginalRefDto } from '../../http/shared.dto.js';

export class NewAliasDto implements NewAlias {
  @IsUUID() shortcutId: ShortcutId;
  /** A path as typed. */
  @IsString() @MaxLength(8192) folder: string;
  @Optional() @IsString() @MaxLength(500) name?: string;
}

export class PublishRequestDto implements PublishRequest {
  @IsIn(['collection', 'tag', 'search']) source: PublicationSource;
  @IsUUID() sourceId: string;
  @ValidateIf((b: PublishRequestDto) => b.asMenu !== true) @IsString() @MaxLength(8192) folder?: string;
  @Optional() @IsString() @MaxLength(500) name?: string;
  @Optional() @IsBoolean() ordered?: boolean;
  @Optional() @IsBoolean() asMenu?: boolean;
}

export class TakeLinkDto extends OriginalRefDto implements TakeLink {
  /** What it is to lead to instead. */
  @Optional() @ValidateNested() @Type(() => OriginalRefDto) to?: OriginalRefDto;
}
