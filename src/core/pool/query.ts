import { wordsThatHold } from '../names/keyword';
import { numberForms } from '../names/number-forms';
import type { PoolColumns } from './columns';
import {
  type Condition,
  eachPart,
  partAt,
  type SievePart,
  type Sort,
  type TextCondition,
  type TextMode,
  troubleWith,
} from './conditions';
import { countParts, type PartCounts, rowsOf, size } from './count';
import { Passes } from './evaluate';
import { factSpec } from './facts';
import { type Histogram, HistogramTally } from './histogram';
import { KeptOrders } from './kept-orders';
import type { FurtherOffer } from './offer';
import { OfferPasses } from './offer-passes';
import { patternProblem } from './pattern-problem';
import type { RowBits } from './range-marks';
import { placeOfRow, sortRows } from './sort';
import { type Circumstances, endForms, labelOf, valuesOf } from './text-hits';

export type { PartCounts } from './count';
export type { Histogram } from './histogram';

export interface PoolQuery {
  parts: SievePart[];
  sorts: Sort[];
  offset: number;
  limit: number;
  /** Paths of conditions over a number or time whose histogram is wanted. */
  histograms: string[];
  /** A domain whose place in the order is wanted. */
  anchor?: number | null;
  /** Whether domains that the person has excluded are shown, too. */
  withExcluded?: boolean;
}

/** Letters of a name that a condition on it found. */
export interface NameMatch {
  start: number;
  end: number;
  /** Whether they are a word of the name, or stand in it by chance. */
  isWord: boolean;
}

export interface RowNames {
  /** Where words begin in the label. */
  starts: number[];
  matches: NameMatch[];
}

export interface PoolAnswer {
  /** Domains in the pool, those left out as excluded among them. */
  size: number;
  /** Domains left out because the person has excluded them. */
  excluded: number;
  /** Domains that pass. */
  total: number;
  /** Domain ids of the asked-for window. */
  ids: number[];
  /** The names of the window, split. */
  names: RowNames[];
  /** Of rows that pass by another offer than the one they show: that offer; by domain id. */
  offers: Record<number, FurtherOffer>;
  parts: PartCounts[];
  /** For conditions on letters: of the rows left, those whose letters are no word of the name; null: not all names are split yet. */
  collisions: Record<string, number | null>;
  /** What is wrong with a condition, by path, in words. */
  troubles: Record<string, string>;
  histograms: Histogram[];
  /** Place of the anchor among all that pass; -1: it does not. */
  anchorAt: number;
  version: number;
}

/** A sifted and sorted result, kept while the pool and the question stay the same, so that scrolling only slices. */
interface Kept {
  key: string;
  version: number;
  bits: RowBits;
  total: number;
  excluded: number;
  parts: PartCounts[];
  histograms: Histogram[];
  collisions: Record<string, number | null>;
  /** Rows that pass by another offer than the one they show. */
  others: Map<number, FurtherOffer>;
  rows: Uint32Array | null;
  /** The first rows in order; complete when as long as rows. */
  sorted: Uint32Array;
}

const NOT_EXCLUDED: Condition = { type: 'choice', fact: 'judged', values: ['excluded'], not: true, keepUnknown: true };

/** Asks columns; keeps the last few results. One instance for one set of columns. */
export class PoolIndex {
  private kept: Kept[] = [];
  private readonly passes: Passes;
  private readonly orders: KeptOrders;

  constructor(
    readonly columns: PoolColumns,
    private readonly keepCount = 4,
  ) {
    this.passes = new Passes(columns);
    this.orders = new KeptOrders(columns);
  }

  /** Prepares a question that holds something slow (a pattern), in parts. `query` answers without it, at once but all at one time. */
  async prepare(parts: SievePart[], given: Circumstances): Promise<void> {
    const slow: Condition[] = [];
    eachPart(parts, (part) => {
      if (part.type === 'text' && part.mode === 'pattern' && !part.off) slow.push(part);
      if (part.type === 'choice' && part.fact === 'nameSubject' && !part.off) slow.push(part);
    });
    for (const condition of slow) await this.passes.prepare(condition, given);
  }

  /** Answers a question. Times move with the clock, so a kept result is good for the same minute only. */
  query(query: PoolQuery, given: Circumstances): PoolAnswer {
    const { columns } = this;
    const entry = this.find(query, given);
    const wanted = Math.min(entry.total, query.offset + query.limit);
    if (query.limit > 0 && entry.sorted.length < wanted) {
      const { bits, total, others } = entry;
      entry.sorted =
        this.orders.first(bits, total, query.sorts, wanted, others) ??
        sortRows(columns, this.rows(entry), query.sorts, wanted, others);
    }
    const window = entry.sorted.subarray(query.offset, wanted);
    const texts = textConditions(query.parts);
    const offers: PoolAnswer['offers'] = {};
    const ids: number[] = [];
    const names: RowNames[] = [];
    const isPage = window.length <= 2000;
    for (const row of window) {
      ids.push(columns.ids[row]);
      const offer = entry.others.get(row);
      if (offer && isPage) offers[columns.ids[row]] = offer;
      if (isPage) names.push(this.namesOf(row, texts, given));
    }
    return {
      size: columns.count,
      excluded: entry.excluded,
      total: entry.total,
      ids,
      names,
      offers,
      parts: entry.parts,
      collisions: entry.collisions,
      troubles: troublesIn(query.parts),
      histograms: entry.histograms,
      anchorAt: this.placeOf(query, entry),
      version: entry.version,
    };
  }

  /** Ids of all that pass, in row order. */
  idsOf(query: Pick<PoolQuery, 'parts' | 'withExcluded'>, given: Circumstances): Uint32Array {
    const entry = this.find({ sorts: [], offset: 0, limit: 0, histograms: [], ...query }, given);
    return this.rows(entry).map((row) => this.columns.ids[row]);
  }

  private rows(entry: Kept): Uint32Array {
    entry.rows ??= rowsOf(entry.bits, this.columns.blocks, entry.total);
    return entry.rows;
  }

  private placeOf({ anchor, sorts }: PoolQuery, entry: Kept): number {
    if (!anchor) return -1;
    const row = this.columns.rowOf(anchor);
    if (row < 0 || ((entry.bits[row >> 5] >>> (row & 31)) & 1) === 0) return -1;
    return placeOfRow(this.columns, this.rows(entry), sorts, row, entry.others);
  }

  private find(query: PoolQuery, given: Circumstances): Kept {
    const { columns, passes } = this;
    const { parts, sorts, histograms, withExcluded } = query;
    const usesWords = sorts.some(({ fact }) => fact === 'words') || JSON.stringify(parts).includes('"words"');
    const key = JSON.stringify([
      parts,
      sorts,
      histograms,
      withExcluded,
      Math.floor(given.nowSeconds / 60),
      given.lastVisit,
      usesWords ? columns.splitRows : 0,
    ]);
    const found = this.kept.find((entry) => entry.key === key && entry.version === columns.version);
    if (found) return found;
    const { blocks } = columns;
    const pool = this.pool(withExcluded || mentionsExcluded(parts), given);
    const tallies = new Map<string, HistogramTally>();
    for (const path of histograms) {
      const part = partAt(parts, path);
      if (part?.type === 'range') tallies.set(path, new HistogramTally(columns, part.fact, path));
    }
    const offers = new OfferPasses(columns, passes, given, parts);
    // evaluated once, however often it is counted
    const passed = new Map<Condition, RowBits>();
    const unknown = new Map<Condition, RowBits | null>();
    eachPart(parts, (part) => {
      if (part.type === 'group' || part.off) return;
      const aboutOffers = offers.of(part);
      passed.set(part, aboutOffers ?? passes.of(part, given));
      unknown.set(part, factSpec(part.fact).optional ? passes.unknown(part.fact) : null);
      // a name that nobody offers has no offer of which something could be unknown
      if (aboutOffers) unknown.set(part, offers.unknown(part.fact));
    });
    const counted = countParts(
      parts,
      pool,
      {
        blocks,
        of: (condition) => passed.get(condition) ?? passes.of(condition, given),
        unknownOf: (condition) => unknown.get(condition) ?? null,
        togetherOf: (part) => offers.togetherOf(part),
      },
      tallies,
    );
    const entry: Kept = {
      key,
      version: columns.version,
      bits: counted.rows,
      total: counted.total,
      excluded: columns.count - size(pool, blocks),
      parts: counted.parts,
      histograms: [...tallies.values()].map((tally) => tally.result(given.nowSeconds)),
      collisions: this.collisions(parts, counted.rows, given),
      others: offers.others(),
      rows: null,
      sorted: new Uint32Array(0),
    };
    this.kept = [entry, ...this.kept.filter((other) => other.version === columns.version)].slice(0, this.keepCount);
    return entry;
  }

  /** All rows, or those not excluded by the person. */
  private pool(withExcluded: boolean, given: Circumstances): RowBits {
    const { count, blocks } = this.columns;
    if (!withExcluded && this.columns.dictionaries.judged.find('excluded') > 0)
      return this.passes.of(NOT_EXCLUDED, given);
    const bits = new Uint32Array(blocks).fill(0xffffffff);
    if ((count & 31) !== 0) bits[blocks - 1] = (1 << (count & 31)) - 1;
    return bits;
  }

  /** For each condition on letters inside names, how many of the rows left hold them by chance only. */
  private collisions(parts: SievePart[], rows: RowBits, given: Circumstances): Record<string, number | null> {
    const found: Record<string, number | null> = {};
    const { columns } = this;
    eachPart(parts, (part, path) => {
      if (part.type !== 'text' || part.mode !== 'contains' || part.not || part.off) return;
      if (columns.splitCount < columns.count && columns.count > SPLIT_AT_ONCE) {
        found[path] = null;
        return;
      }
      const byWord = this.passes.of({ ...part, mode: 'wordish' }, given);
      const byLetters = this.passes.of(part, given);
      let sum = 0;
      for (let w = 0; w < columns.blocks; w++) {
        const word = rows[w] & byLetters[w] & ~byWord[w];
        for (let left = word; left !== 0; left &= left - 1) sum++;
      }
      found[path] = sum;
    });
    return found;
  }

  private namesOf(row: number, texts: TextCondition[], given: Circumstances): RowNames {
    const { columns } = this;
    columns.splitRow(row, given.splitter);
    const label = columns.labelOf(row);
    const begins = (at: number) => ((columns.splits[2 * row + (at >> 5)] >>> (at & 31)) & 1) === 1;
    const starts: number[] = [];
    for (let at = 0; at < label.length; at++) if (begins(at)) starts.push(at);
    const matches: NameMatch[] = [];
    for (const text of texts) for (const match of matchesIn(label, text, starts, given)) matches.push(match);
    return { starts, matches: matches.sort((a, b) => a.start - b.start) };
  }
}

function troublesIn(parts: SievePart[]): Record<string, string> {
  const troubles: Record<string, string> = {};
  eachPart(parts, (part, path) => {
    const trouble = part.off ? null : troubleWith(part, patternProblem);
    if (trouble) troubles[path] = trouble;
  });
  return troubles;
}

/** A small pool is split within the answer. */
const SPLIT_AT_ONCE = 20_000;
const MAX_SHOWN_MATCHES = 8;

function mentionsExcluded(parts: SievePart[]): boolean {
  let found = false;
  eachPart(parts, (part) => {
    if (part.type === 'choice' && part.fact === 'judged' && part.values.includes('excluded') && !part.off) found = true;
  });
  return found;
}

/** Conditions that look for letters in the name. */
function textConditions(parts: SievePart[]): TextCondition[] {
  const texts: TextCondition[] = [];
  eachPart(parts, (part) => {
    if (part.type === 'text' && part.mode !== 'pattern' && !part.off && !part.not) texts.push(part);
  });
  return texts;
}

function formsOf(mode: TextMode, value: string): string[] {
  if (mode === 'wordish') return wordsThatHold(value.toLowerCase());
  if (mode === 'ends') return endForms(value);
  return [mode === 'is' && value.includes('.') ? labelOf(value) : value.toLowerCase()];
}

/** Where the values of a condition stand in a label. Of a long list only what is in the label is looked for. */
function* matchesIn(label: string, text: TextCondition, starts: number[], given: Circumstances): Generator<NameMatch> {
  let count = 0;
  const seen = new Set(starts);
  const isWord = (start: number, end: number) => {
    if (!seen.has(start)) return false;
    for (let at = start + 1; at < end; at++) if (seen.has(at)) return false;
    return end === label.length || seen.has(end) || label.charCodeAt(end) === 45;
  };
  for (const value of valuesOf(text, given)) {
    const forms = formsOf(text.mode, value);
    for (const form of forms) {
      if (form === '') continue;
      for (let start = label.indexOf(form); start >= 0; start = label.indexOf(form, start + 1)) {
        const end = start + form.length;
        const fits =
          text.mode === 'contains' ||
          (text.mode === 'starts' && start === 0) ||
          (text.mode === 'ends' && end === label.length) ||
          (text.mode === 'is' && start === 0 && end === label.length) ||
          ((text.mode === 'word' || text.mode === 'wordish') && isWord(start, end));
        if (!fits) continue;
        const isPlural = () =>
          numberForms(form).some((other) => label.startsWith(other, start) && isWord(start, start + other.length));
        yield { start, end, isWord: isWord(start, end) || isPlural() };
        if (++count >= MAX_SHOWN_MATCHES) return;
      }
    }
  }
}
