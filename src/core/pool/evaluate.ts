import type { PoolColumns } from './columns';
import type { Condition, TextCondition } from './conditions';
import { type FactName, isTimeFact } from './facts';
import { markChoice, markRange, markTimes, markUnknown, type RowBits } from './range-marks';
import { type Circumstances, PATTERN_ROWS, TextHits, trim } from './text-hits';

interface Kept {
  bits: RowBits;
  /** What `columns.changed.count` was when they were right; -1: they never were. */
  changes: number;
  count: number;
  usedAt: number;
}

const MAX_KEPT = 40;

/**
 * Which rows each condition lets through, kept from question to question: while a handle is dragged all conditions but one stay the
 * same, and of those only the blocks in which a row changed are looked at again.
 */
export class Passes {
  private readonly kept = new Map<string, Kept>();
  private readonly text: TextHits;
  private clock = 0;

  constructor(private readonly columns: PoolColumns) {
    this.text = new TextHits(columns);
  }

  /** Rows that pass a condition; good until the next change of the pool. Not to be written to. */
  of(condition: Condition, given: Circumstances): RowBits {
    if (condition.type === 'text') return this.text.of(condition, given);
    const { off: _, ...asked } = condition;
    if (condition.fact === 'nameSubject')
      this.columns.readSubjects(given.splitter, given.subjectOf, Number.POSITIVE_INFINITY);
    const moment = isTimeFact(condition.fact)
      ? [Math.floor(given.nowSeconds / 60), given.lastVisit]
      : condition.fact === 'words' || condition.fact === 'nameSubject'
        ? [this.columns.splitRows]
        : [];
    return this.keep(JSON.stringify([asked, moment]), (bits, from, to) =>
      evaluate(this.columns, condition, given, bits, from, to),
    );
  }

  /** Rows whose value of a fact is not known. */
  unknown(fact: FactName): RowBits {
    return this.keep(`unknown ${fact}`, (bits, from, to) => markUnknown(this.columns, fact, bits, from, to));
  }

  /** Rows that have an open offer. */
  offered(): RowBits {
    return this.keep('offered', (bits, from, to) => {
      markUnknown(this.columns, 'listing', bits, from, to);
      for (let block = from; block < to; block++) bits[block] = ~bits[block];
    });
  }

  /** Prepares what takes long, a part at a time; others get a turn in between. */
  async prepare(condition: Condition, given: Circumstances): Promise<void> {
    if (condition.type === 'text' && condition.mode === 'pattern') await this.text.prepare(condition, given);
    if (condition.type === 'choice' && condition.fact === 'nameSubject')
      while (this.columns.readSubjects(given.splitter, given.subjectOf, PATTERN_ROWS))
        await new Promise((resolve) => setImmediate(resolve));
  }

  private keep(key: string, make: (bits: RowBits, from: number, to: number) => void): RowBits {
    const { columns } = this;
    const { blocks, count, changed } = columns;
    let entry = this.kept.get(key);
    if (!entry) {
      entry = { bits: new Uint32Array(blocks), changes: -1, count: 0, usedAt: 0 };
      this.kept.set(key, entry);
      this.forgetOldest();
    } else if (entry.bits.length < blocks) {
      const wider = new Uint32Array(Math.ceil(blocks * 1.25));
      wider.set(entry.bits);
      entry.bits = wider;
    }
    entry.usedAt = ++this.clock;
    const { bits, changes } = entry;
    if (changes === changed.count && entry.count === count) return bits;
    if (changes < 0) make(bits, 0, blocks);
    else changed.eachRunSince(changes, blocks, (from, to) => make(bits, from, to));
    trim(bits, count);
    entry.changes = changed.count;
    entry.count = count;
    return entry.bits;
  }

  private forgetOldest(): void {
    if (this.kept.size <= MAX_KEPT) return;
    let oldest = '';
    let least = Number.POSITIVE_INFINITY;
    for (const [key, { usedAt }] of this.kept) if (usedAt > 0 && usedAt < least) [oldest, least] = [key, usedAt];
    this.kept.delete(oldest);
  }
}

function evaluate(
  columns: PoolColumns,
  condition: Exclude<Condition, TextCondition>,
  given: Circumstances,
  bits: RowBits,
  from: number,
  to: number,
): void {
  switch (condition.type) {
    case 'range':
      markRange(columns, condition, given.nowSeconds, bits, from, to);
      return;
    case 'choice':
      markChoice(columns, condition, bits, from, to);
      return;
    case 'member': {
      const sets = condition.values.flatMap((set) => columns.members[condition.fact].get(set) ?? []);
      const flip = condition.not ? -1 : 0;
      for (let block = from; block < to; block++) {
        let any = 0;
        for (const set of sets) any |= set[block] ?? 0;
        bits[block] = any ^ flip;
      }
      return;
    }
    case 'visit': {
      const bound = Math.max(1, given.lastVisit + 1);
      markTimes(columns, condition.fact, bound, 0xffffffff, false, bits, from, to);
      if (condition.not) for (let block = from; block < to; block++) bits[block] = ~bits[block];
    }
  }
}
