import { deflateRawSync, inflateRawSync } from 'node:zlib';
import { z } from 'zod';
import { isPassedOn } from '../../core/history/capture';
import type { PageBlock } from '../../core/history/outline';
import type { ReadCapture } from '../../core/history/past';
import { PageBlockSchema } from '../../core/history/past-schema';
import type { Store } from '../base/database';
import { all, camel, columns, first, fromJson, knex, pick, run } from '../base/query';

const CAPTURES = columns('captures');

/** A capture that was read, as it is kept. */
export interface StoredCapture extends ReadCapture {
  url: string;
  status: number;
  marks: string[];
  subjectConfidence: number | null;
  links: string[];
  fingerprint: string | null;
}

const KEPT_TERMS = 60;

/** Call inside a write transaction. */
export function putCapture(store: Store, domainId: number, capture: StoredCapture, at: number): void {
  const terms = [...capture.terms].sort((a, b) => b[1] - a[1]).slice(0, KEPT_TERMS);
  run(
    store,
    knex('captures')
      .insert({
        domain_id: domainId,
        at: capture.at,
        url: capture.url,
        status: capture.status,
        kind: capture.kind,
        marks: JSON.stringify(capture.marks),
        title: capture.title,
        language: capture.language,
        subject: capture.subject,
        subject_confidence: capture.subjectConfidence,
        terms: JSON.stringify(terms),
        links: JSON.stringify(capture.links),
        redirect_to: capture.redirectTo,
        fingerprint: capture.fingerprint,
        read_at: at,
      })
      .onConflict(['domain_id', 'at'])
      .merge(),
  );
}

/** Keeps what a capture shows, as plain blocks. Call inside a write transaction. */
export function putCapturePage(store: Store, domainId: number, at: number, blocks: readonly PageBlock[]): void {
  run(
    store,
    knex('capture_pages')
      .insert({ domain_id: domainId, at, blocks: deflateRawSync(JSON.stringify(blocks)) })
      .onConflict(['domain_id', 'at'])
      .merge(),
  );
}

/** What a capture showed; null: it was read before pages were kept, or not at all. */
export function capturePage(store: Store, domainId: number, at: number): PageBlock[] | null {
  const packed = first(store, knex('capture_pages').where({ domain_id: domainId, at }).pluck('blocks'));
  return packed ? fromJson(z.array(PageBlockSchema), inflateRawSync(packed).toString('utf8')) : null;
}

/** Times of captures whose pages are kept. */
export function capturePageTimes(store: Store, domainId: number): number[] {
  return all(store, knex('capture_pages').where('domain_id', domainId).orderBy('at').pluck('at'));
}

/** Captures that were read, in their order. */
export function capturesOf(store: Store, domainId: number): StoredCapture[] {
  const rows = all(
    store,
    pick(
      knex('captures'),
      camel(
        CAPTURES,
        'at',
        'url',
        'status',
        'kind',
        'marks',
        'title',
        'language',
        'subject',
        'subject_confidence',
        'terms',
        'links',
        'redirect_to',
        'fingerprint',
      ),
    )
      .where('domain_id', domainId)
      .orderBy('at'),
  );
  return rows.map((row) => {
    const marks = fromJson(Words, row.marks);
    return {
      ...row,
      marks,
      isPassedOn: isPassedOn({ kind: row.kind, marks }),
      terms: new Map(fromJson(Terms, row.terms)),
      links: fromJson(Words, row.links),
    };
  });
}
const Words = z.array(z.string());
const Terms = z.array(z.tuple([z.string(), z.number()]));

/** Keeps the times of all captures, ms since 1970. Call inside a write transaction. */
export function putCaptureTimes(store: Store, domainId: number, times: readonly number[]): void {
  const packed = Uint32Array.from(times, (at) => Math.floor(at / 1000));
  run(
    store,
    knex('capture_times')
      .insert({ domain_id: domainId, times: Buffer.from(packed.buffer) })
      .onConflict(['domain_id'])
      .merge(),
  );
}

export function captureTimes(store: Store, domainId: number): number[] {
  const packed = first(store, knex('capture_times').where('domain_id', domainId).pluck('times'));
  if (!packed) return [];
  // the driver's buffer begins where it likes
  const copy = new Uint8Array(packed).buffer;
  return Array.from(new Uint32Array(copy), (seconds) => seconds * 1000);
}
