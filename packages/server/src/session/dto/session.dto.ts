/** What is asked of session, with its bounds. */
import { IsString, MaxLength, MinLength } from 'class-validator';
import { Optional } from '../../http/validation.js';
import type { Passphrase, NewPassphrase } from '@rellin/contract';

export class EntryQueryDto {
  @IsString() @MaxLength(200) code: string;
}

export class PassphraseDto implements Passphrase {
  @IsString() @MinLength(1) @MaxLength(500) passphrase: string;
}

export class NewPassphraseDto implements NewPassphrase {
  @IsString() @MaxLength(500) passphrase: string;
  /** The one that holds now, where one is set and a browser asks. */
  @Optional() @IsString() @MaxLength(500) current?: string;
}
