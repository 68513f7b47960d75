import { z } from 'zod';
import { FitReportSchema, SpamCardSchema, SpamPointsSchema } from '../../core/spam/card-schema';
import { SHIPPED_POINTS, type SpamCard, type SpamPoints } from '../../core/spam/scorecard';
import { type Store, write } from '../base/database';
import { all, camel, columns, first, fromJson, knex, known, pick, run, sql } from '../base/query';

const DOMAINS = columns('domains', 'd');
const SPAM_CARDS = columns('spam_cards', 'c');

const MARKS = ['spam', 'clean'] as const;
type Mark = (typeof MARKS)[number];

/** How a fit changed what the marked domains are taken for. */
const RefitReport = z.object({
  before: FitReportSchema,
  after: FitReportSchema,
  /** Domains whose risk moved most: name, mark, risk before and after. */
  moved: z.array(z.object({ name: z.string(), mark: z.enum(MARKS), before: z.number(), after: z.number() })),
});
export type RefitReport = z.infer<typeof RefitReport>;
export interface FittedPoints {
  id: number;
  at: number;
  points: SpamPoints;
  report: RefitReport;
}

/** Points that count now: the newest that were fitted here and not taken back, else those that ship. */
export function activePoints(store: Store): SpamPoints {
  return lastFit(store)?.points ?? SHIPPED_POINTS;
}

export function lastFit(store: Store): FittedPoints | null {
  const row = first(
    store,
    knex('spam_points').select('id', 'at', 'points', 'report').whereNull('undone_at').orderBy('id', 'desc').limit(1),
  );
  return row
    ? { ...row, points: fromJson(SpamPointsSchema, row.points), report: fromJson(RefitReport, row.report) }
    : null;
}

export function keepFit(store: Store, points: SpamPoints, report: RefitReport): void {
  write(store, () =>
    run(
      store,
      knex('spam_points').insert({ at: store.now(), points: JSON.stringify(points), report: JSON.stringify(report) }),
    ),
  );
}

/** Takes the last fit back. @returns false when there is none. */
export function undoFit(store: Store): boolean {
  const fit = lastFit(store);
  if (!fit) return false;
  write(store, () => run(store, knex('spam_points').where('id', fit.id).update({ undone_at: store.now() })));
  return true;
}

/** Scorecards of the domains that a person marked as spam or clean. */
export function markedCards(store: Store): { name: string; mark: 'spam' | 'clean'; card: SpamCard }[] {
  const rows = all(
    store,
    pick(knex('domains as d').join('spam_cards as c', 'c.domain_id', 'd.id'), {
      ...camel(DOMAINS, 'name'),
      ...camel(SPAM_CARDS, 'card'),
      mark: sql<Mark>('d.judged'),
    })
      .whereIn('d.judged', MARKS)
      .orderBy('d.id'),
  );
  return rows.map((row) => ({ ...row, card: fromJson(SpamCardSchema, row.card) }));
}

export function marksGiven(store: Store): { spam: number; clean: number } {
  const rows = all(
    store,
    pick(knex('domains as d').join('spam_cards as c', 'c.domain_id', 'd.id'), {
      mark: sql<Mark>('d.judged'),
      domains: sql<number>('count(*)'),
    })
      .whereIn('d.judged', MARKS)
      .groupBy('d.judged'),
  );
  const of = (mark: string) => rows.find((row) => row.mark === mark)?.domains ?? 0;
  return { spam: of('spam'), clean: of('clean') };
}

/** Scorecards after a domain, by id. */
export function cardsAfter(store: Store, after: number, limit: number): { id: number; at: number; card: SpamCard }[] {
  const rows = all(
    store,
    pick(knex('spam_cards as c'), { ...camel(SPAM_CARDS, 'at', 'card'), id: SPAM_CARDS.domain_id })
      .where('domain_id', '>', after)
      .orderBy('domain_id')
      .limit(limit),
  );
  return rows.map((row) => ({ ...row, card: fromJson(SpamCardSchema, row.card) }));
}

/** Domains that the person has marked, with the risk that the rules give them. */
export function markedRisks(store: Store): { risk: number; isSpam: boolean }[] {
  const rows = all(
    store,
    pick(knex('domains as d'), { risk: known(DOMAINS.spam_risk), mark: sql<Mark>('d.judged') })
      .whereIn('d.judged', MARKS)
      .whereNotNull('d.spam_risk')
      .orderBy('d.id'),
  );
  return rows.map(({ risk, mark }) => ({ risk, isSpam: mark === 'spam' }));
}
