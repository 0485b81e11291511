/** What is asked of plan, with its bounds. */
import { ArrayMaxSize, ArrayNotEmpty, IsArray, IsIn, IsString, MaxLength } from 'class-validator';
import type { SuggestionIds, SuggestionAnswer } from '@rellin/contract';

export class SuggestionIdsDto implements SuggestionIds {
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(200)
  @IsString({ each: true })
  @MaxLength(2000, { each: true })
  ids: string[];
}

export class SuggestionAnswerDto implements SuggestionAnswer {
  @IsString() @MaxLength(2000) id: string;
  @IsIn(['later', 'never']) answer: 'later' | 'never';
}
