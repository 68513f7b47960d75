import type { Knex } from 'knex';
import type { Risk } from '../../core/bids/risk';
import type { STAGES } from '../../core/bids/stages';
import type { PageKind } from '../../core/crawl/content';
import type { PageClass } from '../../core/crawl/page-class';
import type { UnreadCause } from '../../core/crawl/unread';
import type { PURPOSES } from '../../core/fit/purposes';
import type { ListingKind } from '../../core/formats/list-fields';
import type { SOURCE_KINDS, WATCH_KINDS } from '../../core/formats/source-kinds';
import type { CaptureKind } from '../../core/history/capture';
import type { Joint } from '../../core/ideas/pattern';
import type { DropOutcome } from '../../core/learning/windows';
import type { LifeEventKind } from '../../core/lifecycle/life-events';
import type { LifePhase } from '../../core/lifecycle/moves';
import type { DnsOutcome } from '../../core/lifecycle/phase';
import type { Phase } from '../../core/lifecycle/phases';
import type { QUESTION_DEPTHS } from '../../core/lifecycle/question-depths';
import type { WATCH_REASONS } from '../../core/lifecycle/watch-reasons';
import type { Referring } from '../../core/links/effective';
import type { ListingChange } from '../../core/listings/changes';
import type { ListingState, Reserve } from '../../core/listings/listing';
import type { PLANS, STATUSES } from '../../core/money/holding-kinds';
import type { EntryKind } from '../../core/money/profit';
import type { Account } from '../../core/orders/ledger';
import type { OrderKind, OrderState, RefusedFor } from '../../core/orders/order';
import type { Judgement } from '../../core/pool/facts';
import type { SIEVE_RUNS } from '../../core/pool/sieve-kinds';
import type { ProspectState } from '../../core/prospecting/prospects';
import type { KeptStep } from '../../core/rebuild/checklist';
import type { ResaleState } from '../../core/selling/resale';
import type { InquiryState } from '../../core/selling/talk';
import type { DiligenceItem, Tick } from '../../core/verdict/diligence';
import type { MARK_VERDICTS } from '../../core/verdict/mark-verdicts';
import type { ACT_KINDS } from '../../core/work/act-kinds';
import type { JOB_KINDS } from '../../core/work/job-kinds';

/** How SQLite declares a column; '' declares nothing: what is written there keeps its kind. */
type Declared = 'INTEGER' | 'REAL' | 'TEXT' | 'BLOB' | '';

/** One column. `T` is what is read from it. */
interface ColumnSpec<T, ByItself extends boolean = false> {
  declared: Declared;
  isNullable: boolean;
  fillsItself: ByItself;
  /** Only some values of the kind are ever written. */
  of<Narrow extends T>(): ColumnSpec<Narrow>;
  orNull: ColumnSpec<T | null>;
  /** Filled by the database where nothing is said: a default, or the next number. */
  byItself: ColumnSpec<T, true>;
}

function column<T, ByItself extends boolean>(
  declared: Declared,
  isNullable: boolean,
  fillsItself: ByItself,
): ColumnSpec<T, ByItself> {
  return {
    declared,
    isNullable,
    fillsItself,
    of: () => column(declared, isNullable, false),
    get orNull() {
      return column<T | null, false>(declared, true, false);
    },
    get byItself() {
      return column<T, true>(declared, isNullable, true);
    },
  };
}

const integer = column<number, false>('INTEGER', false, false);
const real = column<number, false>('REAL', false, false);
const text = column<string, false>('TEXT', false, false);
const blob = column<Uint8Array, false>('BLOB', false, false);
const cell = column<string | number, false>('', false, false);

/** Yes or no. */
type Flag = 0 | 1;

/**
 * The tables of the database with their columns, as the migrations leave them (schema.test.ts compares). Times are ms since 1970
 * UTC, amounts minor units of the currency beside them; text that holds JSON is parsed by `fromJson`.
 */
// biome-ignore format: a table reads as a paragraph, a column a word
export const TABLES = {
  settings: { key: text, value: text },
  briefs: {
    id: integer.byItself, name: text, purpose: text.of<(typeof PURPOSES)[number]>(), subject_words: text,
    trusted_sites: text, excluded_endings: text, budget_minor: integer.orNull, currency: text, created_at: integer,
    risk: text.of<Risk>().byItself, fees_minor: integer.byItself, required_words: text.byItself,
    unwanted_words: text.byItself, languages: text.byItself, weights: text.orNull, assumptions: text.byItself,
    countries: text.byItself, from_at: integer.orNull, until_at: integer.orNull, mix: text.orNull,
    house_limits: text.byItself, margin_percent: integer.byItself, months: integer.byItself,
    renewal_minor: integer.byItself, interest_percent: integer.byItself,
  },
  sources: {
    id: integer.byItself, kind: text.of<(typeof SOURCE_KINDS)[number]>(), name: text, detail: text,
    created_at: integer, rows_read: integer.byItself, rows_taken: integer.byItself, rows_repeated: integer.byItself,
    rows_excluded: integer.byItself, rows_set_aside: integer.byItself, domains_new: integer.byItself,
    undone_at: integer.orNull, undone: text.orNull,
  },
  jobs: {
    id: integer.byItself, kind: text.of<(typeof JOB_KINDS)[number]>(), source_id: integer.orNull, params: text,
    state: text.of<'queued' | 'running' | 'paused' | 'done' | 'failed' | 'cancelled'>(), progress: text.orNull,
    checkpoint: text.orNull, error: text.orNull, next: text.orNull, created_at: integer, started_at: integer.orNull,
    finished_at: integer.orNull,
  },
  domains: {
    id: integer.byItself, name: text, ending: text, length: integer, hyphens: integer, digits: integer,
    in_pool: integer.of<Flag>().byItself, added_at: integer, phase: text.of<Phase>().byItself,
    phase_confidence: real.orNull, phase_reason: text.orNull, phase_source: text.orNull, phase_at: integer.orNull,
    registered_at: integer.orNull, expires_at: integer.orNull, changed_at: integer.orNull, registrar: text.orNull,
    statuses: text.orNull, name_servers: text.orNull, record_at: integer.orNull, record_source: text.orNull,
    first_seen_at: integer.orNull, last_seen_at: integer.orNull, captures: integer.orNull,
    captures_by_year: text.orNull, past_at: integer.orNull, past_source: text.orNull, backlinks: integer.orNull,
    referring_domains: integer.orNull, strength: real.orNull, trust: real.orNull, spam_risk: integer.orNull,
    links_at: integer.orNull, trust_path: text.orNull, listing: text.of<ListingKind>().orNull, venue: text.orNull,
    price_minor: integer.orNull, currency: text.orNull, bids: integer.orNull, closing_at: integer.orNull,
    drop_at: integer.orNull, listing_url: text.orNull, listing_at: integer.orNull, readers: integer.orNull,
    offers: integer.orNull, judged: text.of<Judgement>().orNull, judged_reason: text.orNull, judged_at: integer.orNull,
    snoozed_until: integer.orNull, phase_since: integer.orNull, phase_before_at: integer.orNull,
    contradictions: text.orNull, drop_from: integer.orNull, drop_to: integer.orNull,
    drop_conditional: integer.of<Flag>().orNull, drop_reasons: text.orNull, watched_at: integer.orNull,
    watch_reason: text.of<(typeof WATCH_REASONS)[number]>().orNull, ask_at: integer.orNull, ask_failures: integer.orNull, visits: integer.orNull,
    traffic_value: real.orNull,
  },
  sightings: {
    domain_id: integer, source_id: integer, at: integer, line: integer.orNull, said: text, figures: text.orNull,
    figures_at: integer.orNull,
  },
  score_names: { place: integer, name: text },
  rejects: { source_id: integer, line: integer, reason: text, sample: text },
  checks: {
    id: integer.byItself, domain_id: integer, at: integer, step: text.of<'dns' | 'rdap' | 'whois' | 'registrar'>(),
    server: text, outcome: text, detail: text, elapsed_ms: integer, text: text.orNull, price_minor: integer.orNull,
    currency: text.orNull,
  },
  spam_cards: { domain_id: integer, at: integer, card: text },
  measurements: {
    id: integer.byItself, at: integer, nodes: integer, edges: integer, steps: integer, change: real, trusted: text,
    floor: real,
  },
  pages: {
    id: integer.byItself, source_id: integer, url: text, site: text, host: text, depth: integer,
    hops: integer.byItself, state: text.of<'queued' | 'beyond' | 'done' | 'skipped' | 'failed'>().byItself,
    status: integer.orNull, content_type: text.orNull, charset: text.orNull, title: text.orNull,
    noindex: integer.of<Flag>().orNull, nofollow: integer.of<Flag>().orNull, canonical: text.orNull,
    note: text.orNull, bytes: integer.orNull, links_out: integer.orNull, fetched_at: integer.orNull,
    class_id: integer.byItself, via_class: integer.byItself, kind: text.of<PageKind>().orNull, mark: integer.orNull,
    letters: integer.orNull, readers: integer.orNull, contact: text.orNull, attempts: integer.byItself,
    finds: integer.byItself, cause: text.of<UnreadCause>().orNull,
  },
  sieves: {
    id: integer.byItself, name: text, view: text, created_at: integer,
    runs: text.of<(typeof SIEVE_RUNS)[number]>().byItself, run_minute: integer.byItself,
    in_digest: integer.of<Flag>().byItself, shortlist_brief: integer.orNull, measures: integer.byItself,
    next_at: integer.orNull, last_at: integer.orNull, last_total: integer.orNull, last_new: integer.orNull,
    depth: integer.byItself,
  },
  shortlist: {
    domain_id: integer, brief_id: integer, stage: text.of<(typeof STAGES)[number]>(),
    maximum_bid_minor: integer.orNull, note: text.byItself, added_at: integer, changed_at: integer,
    worth_low_minor: integer.orNull, worth_high_minor: integer.orNull, fees_minor: integer.orNull, added_by: text.byItself,
  },
  page_edges: { page_id: integer, source_id: integer, redirect: integer.of<Flag>(), targets: blob },
  crawl_classes: {
    id: integer.byItself, source_id: integer, site: text, shape: text, word: text, cue: text.of<PageClass['cue']>(), pages: real.byItself,
    gave: real.byItself,
  },
  crawl_sites: {
    source_id: integer, site: text, seed: text, depth: integer.orNull,
    state: text.of<'reading' | 'dropped' | 'blocking' | 'unreachable'>().byItself, note: text.orNull,
    nonsense_mark: integer.orNull, probed: integer.of<Flag>().byItself,
  },
  crawl_traps: { source_id: integer, site: text, kind: text, reason: text, example: text, addresses: integer },
  set_aside: { source_id: integer, name: text, reason: text, mentions: integer.byItself },
  crawl_samples: {
    source_id: integer, at: integer, pages: integer, queued: integer, domains: integer, finds: integer,
  },
  dead_targets: { url: text, domain_id: integer, outcome: text, status: integer.orNull, checked_at: integer },
  job_rows: { job_id: integer, seq: integer, row: text },
  mappings: { header: text, kind: text, columns: text, used_at: integer },
  links: {
    source_id: integer, seq: integer, to_id: integer, from_id: integer, from_url: text, to_url: text, anchor: text,
    nofollow: integer.of<Flag>(), indexable: integer.of<Flag>(), first_seen_at: integer.orNull,
    last_seen_at: integer.orNull, unindexed: text.orNull,
  },
  raw_rows: { source_id: integer, first_line: integer, rows: blob },
  listings: {
    domain_id: integer, source_id: integer, kind: text.of<ListingKind>(), venue: text.orNull,
    state: text.of<ListingState>(), price_minor: integer.orNull, currency: text.orNull,
    reserve: text.of<Reserve>().orNull, bids: integer.orNull, closing_at: integer.orNull, steps: text,
    url: text.orNull, first_at: integer, seen_at: integer, ended_at: integer.orNull, next_at: integer.orNull,
    watchers: integer.orNull,
  },
  listing_changes: {
    id: integer.byItself, domain_id: integer, source_id: integer, kind: text.of<ListingKind>(), at: integer,
    what: text.of<ListingChange['what']>(), was: cell.orNull, now_is: cell.orNull,
  },
  watches: {
    id: integer.byItself, kind: text.of<(typeof WATCH_KINDS)[number]>(), target: text, name: text, options: text,
    source_id: integer.orNull, every_ms: integer, is_on: integer.of<Flag>().byItself, next_at: integer,
    last_at: integer.orNull, outcome: text.orNull, etag: text.orNull, modified: text.orNull, hash: text.orNull,
    created_at: integer,
  },
  watched_files: {
    watch_id: integer, name: text, bytes: integer, modified_at: real, hash: text, source_id: integer.orNull,
  },
  tags: { id: integer.byItself, name: text, created_at: integer },
  domain_tags: { domain_id: integer, tag_id: integer },
  actions: {
    id: integer.byItself, at: integer, kind: text, detail: text, domains: integer.byItself, undone_at: integer.orNull,
    who: text.byItself,
  },
  action_rows: { action_id: integer, domain_id: integer, was: text.orNull },
  word_lists: { id: integer.byItself, hash: text, words: text, created_at: integer },
  sieve_hits: { sieve_id: integer, domain_id: integer, at: integer, fresh: integer },
  pool_changes: { domain_id: integer },
  pool_stamp: { id: integer.byItself, stamp: integer },
  life_events: { id: integer.byItself, domain_id: integer, at: integer, kind: text.of<LifeEventKind>(), words: text },
  deletions: { domain_id: integer, expired_at: integer, registrar: text, days: real },
  questions: {
    domain_id: integer, step: text.of<'dns' | 'record' | 'registrar'>(), server: text, held: integer.of<0 | 1 | 2>(),
    turn: real, depth: text.of<(typeof QUESTION_DEPTHS)[number]>(), said: text, tries: integer, since: integer,
    waits_for: text.orNull, waits_until: integer.orNull,
  },
  question_askers: { job_id: integer, domain_id: integer },
  question_news: {
    id: integer.byItself, job_id: integer, domain_id: integer, dns: text.of<DnsOutcome>().orNull,
    phase: text.of<Phase>().orNull,
  },
  calendar_entries: {
    uid: text, hash: text, sequence: integer, changed_at: integer, entry: text, cancelled_at: integer.orNull,
  },
  budgets: { server: text, budget: text, updated_at: integer },
  inspections: {
    domain_id: integer, strength_rank: real.orNull, trust_rank: real.orNull, strength_with: real.orNull,
    spam_mass: real.orNull, effective: real.orNull, weighing: text.orNull, count_from: text.orNull,
    count_factor: real.orNull, captures_at: integer.orNull, captures_read: integer.orNull,
    captures_partial: integer.orNull, content_years: real.orNull, gaps: integer.orNull, drops: integer.orNull,
    drift: real.orNull, subject: text.orNull, subject_confidence: real.orNull, subject_why: text.orNull,
    language: text.orNull, past: text.orNull, forwarding_at: integer.orNull, forward_to: text.orNull,
    forward_now: integer.of<Flag>().orNull, front: text.orNull, referrers_at: integer.orNull,
    marks_at: integer.orNull, marks_found: integer.orNull,
  },
  captures: {
    domain_id: integer, at: integer, url: text, status: integer, kind: text.of<CaptureKind>(), marks: text,
    title: text, language: text.orNull, subject: text.orNull, subject_confidence: real.orNull, terms: text,
    links: text, redirect_to: text.orNull, fingerprint: text.orNull, read_at: integer,
  },
  capture_times: { domain_id: integer, times: blob },
  link_looks: {
    to_id: integer, from_id: integer, url: text, at: integer, standing: text.of<Referring['standing']>(),
    anchor: text.orNull, rel: text.orNull, fingerprint: text.orNull, note: text, language: text.orNull,
  },
  site_facts: {
    domain_id: integer, at: integer.orNull, name_servers: text.orNull, address_block: text.orNull,
    tracking_ids: text.orNull, registrant: text.orNull,
  },
  measure_queue: { domain_id: integer, since: integer, wanted_by: text, by_hand: integer.of<Flag>() },
  lapsed_targets: { domain_id: integer, targets: integer },
  measure_spend: { day: text, requests: integer },
  mark_matches: {
    domain_id: integer, register: text, number: text, mark: text, owner: text, classes: text, status: text,
    score: real, why: text, at: integer,
  },
  mark_reviews: {
    id: integer.byItself, domain_id: integer, at: integer, verdict: text.of<(typeof MARK_VERDICTS)[number]>(),
    note: text, who: text.byItself,
  },
  spam_points: { id: integer.byItself, at: integer, points: text, report: text, undone_at: integer.orNull },
  link_drops: { id: integer.byItself, drops: integer },
  capture_pages: { domain_id: integer, at: integer, blocks: blob },
  notes: {
    id: integer.byItself, domain_id: integer, at: integer, text: text, removed_at: integer.orNull, who: text.byItself,
  },
  diligence: {
    id: integer.byItself, domain_id: integer, item: text.of<DiligenceItem>(), at: integer,
    state: text.of<Tick['state']>(), note: text, undone_at: integer.orNull, who: text.byItself,
  },
  warc_files: {
    id: integer.byItself, path: text, size: integer, modified_at: integer, read_to: integer, captures: integer,
    problem: text.orNull,
  },
  warc_captures: {
    domain: text, at: integer, url: text, status: integer, file_id: integer, offset: integer, digest: text.byItself,
  },
  found_pages: { domain_id: integer, item: text, at: integer, who: text, total: integer.orNull, pages: text },
  fact_changes: {
    id: integer.byItself, domain_id: integer, at: integer.orNull, fact: text, was: cell.orNull, becomes: cell.orNull,
    who: text.orNull,
  },
  sales: {
    id: integer.byItself, name: text, price_minor: integer, currency: text.orNull, at: integer, venue: text.orNull,
    source: text,
  },
  orders: {
    id: integer.byItself, key: text, brief_id: integer, domain_id: integer, venue: text, url: text.orNull,
    kind: text.of<OrderKind>(), state: text.of<OrderState>(), amount_minor: integer, currency: text,
    rate_ppm: integer, fees_minor: integer, price_minor: integer.orNull, least_minor: integer.orNull,
    counter_minor: integer.orNull, final_minor: integer.orNull, bids: integer.orNull, reserve: text.orNull,
    closes_at: integer.orNull, reason: text.orNull, send_at: integer.orNull, attempts: integer.byItself,
    next_at: integer.orNull, estimates: text.byItself, created_at: integer, sent_at: integer.orNull,
    answered_at: integer.orNull, ended_at: integer.orNull, client_key: text.orNull,
    refused_for: text.of<RefusedFor>().orNull, venue_number: text.orNull,
  },
  order_events: {
    id: integer.byItself, order_id: integer, at: integer, who: text, state: text.of<OrderState>(), words: text,
  },
  ledger: {
    id: integer.byItself, posting: integer, at: integer, brief_id: integer, order_id: integer.orNull,
    account: text.of<Account>(), amount_minor: integer, words: text,
  },
  holdings: {
    domain_id: integer, brief_id: integer.orNull, order_id: integer.orNull, bought_at: integer, cost_minor: integer,
    fees_minor: integer, currency: text, seller: text, renews_at: integer.orNull, renewal_minor: integer.orNull,
    note: text.byItself, plan: text.of<(typeof PLANS)[number]>().byItself,
    status: text.of<(typeof STATUSES)[number]>().byItself,
  },
  rankings: {
    domain_id: integer, source: text, phrase: text, position: integer, searches: integer, click_minor: integer,
    currency: text.orNull, competition: real.orNull, at: integer.orNull, taken_at: integer,
  },
  idea_runs: {
    id: integer.byItself, brief_id: integer, pattern: text, made: integer.orNull, created_at: integer,
    done_at: integer.orNull,
  },
  ideas: {
    run_id: integer, rank: integer, label: text, words: text, joint: text.of<Joint>(), score: real, parts: text,
    reads_as: text.orNull, worth_low_minor: integer.orNull, worth_high_minor: integer.orNull, mark: text.orNull,
  },
  places: { word: text, title: text, people: integer.orNull, growth_percent: real.orNull, source: text },
  own_pages: { url: text, title: text, text: text, source: text, taken_at: integer },
  redirects: { domain_id: integer, from_path: text, to_url: text.orNull, decided_at: integer },
  holding_entries: {
    id: integer.byItself, domain_id: integer, at: integer, kind: text.of<EntryKind>(), amount_minor: integer,
    currency: text, words: text, removed_at: integer.orNull,
  },
  rebuild_steps: {
    domain_id: integer, key: text, state: text.of<KeptStep['state']>(), words: text.orNull, at: integer,
  },
  prospects: {
    target_url: text, target_domain: text, page_url: text, title: text.orNull, anchor: text,
    state: text.of<ProspectState>(), contact: text.orNull, note: text.byItself, written_at: integer.orNull,
    answered_at: integer.orNull, added_at: integer,
  },
  stand_ins: { target_url: text, own_url: text, chosen_at: integer },
  resales: {
    id: integer.byItself, key: text, domain_id: integer, venue: text, ask_minor: integer, floor_minor: integer,
    currency: text, text: text, state: text.of<ResaleState>(), final_minor: integer.orNull,
    fees_minor: integer.orNull, reason: text.orNull, attempts: integer.byItself, next_at: integer.orNull,
    created_at: integer, answered_at: integer.orNull, ended_at: integer.orNull,
  },
  inquiries: {
    resale_id: integer, inquiry: text, buyer: text, at: integer, words: text, offer_minor: integer.orNull,
    asked_minor: integer.orNull, state: text.of<InquiryState>(), until: integer.orNull,
  },
  inquiry_answers: {
    key: text, resale_id: integer, inquiry: text, act: text.of<'accept' | 'counter' | 'decline'>(),
    amount_minor: integer.orNull, state: text.of<'to send' | 'done' | 'refused'>(), reason: text.orNull, at: integer,
  },
  drop_outcomes: {
    domain_id: integer, seen_at: integer, from_at: integer, to_at: integer, last_at: integer.orNull,
    became: text.of<DropOutcome['became']>(),
  },
  redirect_logs: {
    domain_id: integer, source: text, taken_at: integer, from_at: integer.orNull, to_at: integer.orNull,
    lines: integer, aside: integer, robots: integer,
  },
  redirect_hits: { domain_id: integer, source: text, path: text, requests: integer },
  resale_events: { id: integer.byItself, resale_id: integer, at: integer, who: text, words: text },
  lives: {
    domain_id: integer, phase: text.of<LifePhase>(), seen_first_at: integer, seen_last_at: integer,
    before_at: integer.orNull, deletes_at: integer.orNull, free_at: integer.orNull, policy: text.orNull,
  },
  lookup_problems: { key: text, words: text, remedy: text, since: integer, last_at: integer, times: integer },
  shortlist_removed: { brief_id: integer, domain_id: integer, entry: text, removed_at: integer },
  acts: { id: integer.byItself, at: integer, kind: text.of<(typeof ACT_KINDS)[number]>(), words: text, changes: text, undone_at: integer.orNull, who: text.byItself },
  lookup_pulse: { id: integer.byItself, at: integer },
  find_causes: {
    source_id: integer, domain_id: integer, causes: integer, is_out: integer.of<Flag>(), at: integer,
    line: integer.orNull, said: text.orNull,
  },
  forgotten_hits: {
    sieve_id: integer, view: text, domain_id: integer, at: integer, fresh: integer, forgotten_at: integer,
  },
};

export type TableName = keyof typeof TABLES;

type Spec<T extends TableName> = (typeof TABLES)[T];
type ValueOf<C> = C extends ColumnSpec<infer T, boolean> ? T : never;
type FilledByItself<T extends TableName> = {
  [K in keyof Spec<T>]: Spec<T>[K] extends ColumnSpec<infer V, infer B>
    ? B extends true
      ? K
      : null extends V
        ? K
        : never
    : never;
}[keyof Spec<T>];

/** A row of a table as it is read. */
export type Row<T extends TableName> = { [K in keyof Spec<T>]: ValueOf<Spec<T>[K]> };

/** A row as it is put in: what fills itself, or may be null, can be left out. */
export type NewRow<T extends TableName> = { [K in Exclude<keyof Spec<T>, FilledByItself<T>>]: ValueOf<Spec<T>[K]> } & {
  [K in FilledByItself<T>]?: ValueOf<Spec<T>[K]>;
};

/** What of a row is changed, by a value or by an expression. */
type Changed<T extends TableName> = { [K in keyof Row<T>]?: Row<T>[K] | Knex.Raw };

type KnexTables = { [T in TableName]: Knex.CompositeTableType<Row<T>, NewRow<T>, Changed<T>> };

declare module 'knex/types/tables' {
  interface Tables extends KnexTables {}
}
