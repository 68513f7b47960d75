import type { z } from 'zod';
import { actsCalls } from './acts';
import { availabilityCalls } from './availability';
import { briefsCalls } from './briefs';
import type { Call, DeepReadonly } from './call';
import { connectionsCalls } from './connections';
import { crawlCalls } from './crawl';
import { deadlinesCalls } from './deadlines';
import { decisionCalls } from './decision';
import { domainsCalls } from './domains';
import { exportsCalls } from './exports';
import { ideasCalls } from './ideas';
import { jobsCalls } from './jobs';
import { learningCalls } from './learning';
import { measuresCalls } from './measures';
import { ordersCalls } from './orders';
import { pageCheckCalls } from './page-check';
import { planCalls } from './plan';
import { poolCalls } from './pool';
import { portfolioCalls } from './portfolio';
import { prospectingCalls } from './prospecting';
import type { QueryFields } from './query';
import { rebuildCalls } from './rebuild';
import { redirectsCalls } from './redirects';
import { sellingCalls } from './selling';
import { setupCalls } from './setup';
import { shortlistCalls } from './shortlist';
import { sievesCalls } from './sieves';
import { sourcesCalls } from './sources';
import { systemCalls } from './system';
import { tokensCalls } from './tokens';
import { verdictCalls } from './verdict';

/** Every call of the HTTP interface, by method and path. Routes, the interface's own calls and the description take their types from it. */
export const CALLS = {
  ...actsCalls,
  ...availabilityCalls,
  ...briefsCalls,
  ...connectionsCalls,
  ...crawlCalls,
  ...deadlinesCalls,
  ...decisionCalls,
  ...domainsCalls,
  ...exportsCalls,
  ...ideasCalls,
  ...jobsCalls,
  ...learningCalls,
  ...measuresCalls,
  ...ordersCalls,
  ...pageCheckCalls,
  ...planCalls,
  ...poolCalls,
  ...portfolioCalls,
  ...prospectingCalls,
  ...rebuildCalls,
  ...redirectsCalls,
  ...sellingCalls,
  ...setupCalls,
  ...shortlistCalls,
  ...sievesCalls,
  ...sourcesCalls,
  ...systemCalls,
  ...tokensCalls,
  ...verdictCalls,
};

export type CallPath = keyof typeof CALLS;

type Part<Path extends CallPath, Key extends keyof Call> = (typeof CALLS)[Path] extends { [K in Key]: infer Of }
  ? Of
  : undefined;
type In<Of> = Of extends z.ZodType ? z.input<Of> : undefined;
type Out<Of> = Of extends z.ZodType ? z.output<Of> : undefined;
/** What stands in the address, as a route reads it. */
export type QueryOf<Path extends CallPath> =
  Part<Path, 'query'> extends infer Fields extends QueryFields
    ? { [Key in keyof Fields]: z.output<Fields[Key]> }
    : Record<never, never>;
type OrFile<Path extends CallPath> = Part<Path, 'file'> extends true ? null : never;

/** What is sent with a call. */
export type Sent<Path extends CallPath> = DeepReadonly<In<Part<Path, 'body'>>>;
/** The same as a route reads it; null: a file was sent instead. */
export type Body<Path extends CallPath> = Out<Part<Path, 'body'>> | OrFile<Path>;
/** What a call answers. */
export type Answer<Path extends CallPath> = Out<Part<Path, 'answer'>>;
/** The same as a route gives it. */
export type Given<Path extends CallPath> = DeepReadonly<In<Part<Path, 'answer'>>>;

/** Names in the braces of a path. */
export type PartsOf<Path extends string> = Path extends `${string}{${infer Name}}${infer Rest}`
  ? Name | PartsOf<Rest>
  : never;
