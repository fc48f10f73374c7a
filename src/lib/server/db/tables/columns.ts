import type { ColumnType } from 'kysely';

/** Filled by the database when a row is made. */
export type Made<T> = ColumnType<T, T | undefined, T>;
/** Kept exactly as given; read back as it was. */
export type Json<T> = ColumnType<T, string, string>;
export type Instant = ColumnType<Date, Date | string, Date | string>;
export type MaybeInstant = ColumnType<
  Date | null,
  Date | string | null | undefined,
  Date | string | null
>;
/** numeric(8,2): a decimal text, never a binary float. */
export type Points = ColumnType<string | null, string | null | undefined, string | null>;
