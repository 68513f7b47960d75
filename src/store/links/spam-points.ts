import type { FitReport } from '../../core/spam/fit';
import { SHIPPED_POINTS, type SpamCard, type SpamPoints } from '../../core/spam/scorecard';
import { type Store, statement, write } from '../base/database';

/** How a fit changed what the marked domains are taken for. */
export interface RefitReport {
  before: FitReport;
  after: FitReport;
  /** Domains whose risk moved most: name, mark, risk before and after. */
  moved: { name: string; mark: 'spam' | 'clean'; before: number; after: number }[];
}

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
  const row = statement(
    store.raw,
    'SELECT id, at, points, report FROM spam_points WHERE undone_at IS NULL ORDER BY id DESC LIMIT 1',
  ).get() as { id: number; at: number; points: string; report: string } | undefined;
  return row ? { ...row, points: JSON.parse(row.points), report: JSON.parse(row.report) } : null;
}

export function keepFit(store: Store, points: SpamPoints, report: RefitReport): void {
  write(store, () =>
    statement(store.raw, 'INSERT INTO spam_points (at, points, report) VALUES (?, ?, ?)').run(
      store.now(),
      JSON.stringify(points),
      JSON.stringify(report),
    ),
  );
}

/** Takes the last fit back. @returns false when there is none. */
export function undoFit(store: Store): boolean {
  const fit = lastFit(store);
  if (!fit) return false;
  write(store, () =>
    statement(store.raw, 'UPDATE spam_points SET undone_at = ? WHERE id = ?').run(store.now(), fit.id),
  );
  return true;
}

/** Scorecards of the domains that a person marked as spam or clean. */
export function markedCards(store: Store): { name: string; mark: 'spam' | 'clean'; card: SpamCard }[] {
  const rows = statement(
    store.raw,
    `SELECT d.name, d.judged AS mark, c.card FROM domains d JOIN spam_cards c ON c.domain_id = d.id
     WHERE d.judged IN ('spam', 'clean') ORDER BY d.id`,
  ).all() as { name: string; mark: 'spam' | 'clean'; card: string }[];
  return rows.map((row) => ({ ...row, card: JSON.parse(row.card) }));
}

export function marksGiven(store: Store): { spam: number; clean: number } {
  const rows = statement(
    store.raw,
    `SELECT d.judged AS mark, count(*) AS domains FROM domains d JOIN spam_cards c ON c.domain_id = d.id
     WHERE d.judged IN ('spam', 'clean') GROUP BY d.judged`,
  ).all() as { mark: 'spam' | 'clean'; domains: number }[];
  const of = (mark: string) => rows.find((row) => row.mark === mark)?.domains ?? 0;
  return { spam: of('spam'), clean: of('clean') };
}

/** Scorecards after a domain, by id. */
export function cardsAfter(store: Store, after: number, limit: number): { id: number; at: number; card: SpamCard }[] {
  const rows = statement(
    store.raw,
    'SELECT domain_id AS id, at, card FROM spam_cards WHERE domain_id > ? ORDER BY domain_id LIMIT ?',
  ).all(after, limit) as { id: number; at: number; card: string }[];
  return rows.map((row) => ({ ...row, card: JSON.parse(row.card) }));
}

/** Domains that the person has marked, with the risk that the rules give them. */
export function markedRisks(store: Store): { risk: number; isSpam: boolean }[] {
  const rows = statement(
    store.raw,
    `SELECT spam_risk AS ruleRisk, judged AS markGiven FROM domains WHERE judged IN ('spam', 'clean') AND spam_risk IS NOT NULL`,
  ).all() as { ruleRisk: number; markGiven: string }[];
  return rows.map(({ ruleRisk, markGiven }) => ({ risk: ruleRisk, isSpam: markGiven === 'spam' }));
}
