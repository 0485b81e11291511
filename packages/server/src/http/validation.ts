/** Validators of requests that every feature shares. */
import { Injectable, type ArgumentMetadata, type PipeTransform } from '@nestjs/common';
import { applyDecorators } from '@nestjs/common';
import { Transform } from 'class-transformer';
import { IsInt, Max, Min, ValidateIf } from 'class-validator';
import { Refusal } from '../problems/refusal.js';

/** The field may be left out. `null` is a value, and is taken only where the field says so. */
export const Optional = () => ValidateIf((_, value: unknown) => value !== undefined);

/** The field may be null as well. */
export const Nullable = () => ValidateIf((_, value: unknown) => value !== null);

/**
 * Digits count as the number that they write. Everything else is left to the checks: a list or an object is no number.
 */
export const AsNumber = () =>
  Transform(({ value }: { value: unknown }) =>
    typeof value === 'string' && /^-?\d{1,16}$/.test(value) ? Number(value) : value,
  );

/** PostgreSQL's integer; places are numbered by it. */
const LARGEST_PLACE = 2 ** 31 - 1;

/** The number of a place. */
export const IsPlaceId = () => applyDecorators(AsNumber(), IsInt(), Min(1), Max(LARGEST_PLACE));

/** The number of an original within its place, or of a line of the journal. */
export const IsRowId = () => applyDecorators(AsNumber(), IsInt(), Min(1), Max(Number.MAX_SAFE_INTEGER));

function idPipe(largest: number) {
  @Injectable()
  class IdPipe implements PipeTransform<string, number> {
    transform(text: string, { data }: ArgumentMetadata): number {
      const id = /^\d{1,16}$/.test(text) ? Number(text) : 0;
      if (id < 1 || id > largest) throw new Refusal('not-valid', `“${data}” must be a number from 1 to ${largest}.`);
      return id;
    }
  }
  return IdPipe;
}

/** The number of a place in an address. */
export const PlaceIdPipe = idPipe(LARGEST_PLACE);
/** The number of an original in an address. */
export const RowIdPipe = idPipe(Number.MAX_SAFE_INTEGER);
