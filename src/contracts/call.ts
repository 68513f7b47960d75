import type { z } from 'zod';
import type { NeededScope } from '../core/settings/token-scopes';
import type { QueryFields } from './query';

/** One call of the HTTP interface. */
export interface Call {
  /** What it does, in a line. */
  summary: string;
  /** What is sent with it, as JSON. */
  body?: z.ZodType;
  /** A file is sent as the body, or in a multipart form; where there is a schema of a body too, either of them. */
  file?: boolean;
  /** What a form that pages send has. */
  form?: z.ZodType;
  /** What may stand in the address, each described. */
  query?: QueryFields;
  /** What is answered as JSON. */
  answer?: z.ZodType;
  /** Kinds of files or streams that it answers, beside JSON or instead. */
  media?: string[];
  /** Who may ask without the key of the data folder: everybody, or programs that read feeds, with a key for those. */
  access?: 'open' | 'feed';
  /** What a script's token has to let do; absent: to read for GET, to gather for all else. */
  needs?: NeededScope;
  /** Of the answer; absent: 200. */
  status?: number;
}

/** What a token has to let do for a call. */
export const neededFor = (path: string, { needs }: Pick<Call, 'needs'>): NeededScope =>
  needs ?? (path.startsWith('GET ') ? 'read' : 'gather');

/** Calls by method and path: `GET /jobs/{id}`. */
export type Calls = Record<string, Call>;

/** What is given may hold lists that nobody may change. */
export type DeepReadonly<T> = T extends object ? { readonly [Key in keyof T]: DeepReadonly<T[Key]> } : T;
