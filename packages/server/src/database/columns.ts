import type { ValueTransformer } from 'typeorm';

/** bigint columns that stay far below 2^53 are numbers here. */
export const BIGINT: ValueTransformer = {
  to: (value: number | null) => value,
  from: (value: string | null) => (value === null ? null : Number(value)),
};
