import { tenths } from '../formats/figures';
import { languageName } from '../history/language-name';
import { columnOf, factSpec, STORED_NUMBERS, type StoredNumber } from '../pool/facts';
import { subjectTitle } from '../topics/subjects';
import { figure } from '../wording/figures';

/** What people call the facts whose changes are kept; keys are names of columns. */
export const FACT_TITLES: Record<string, string> = {
  ...Object.fromEntries(STORED_NUMBERS.map((fact) => [columnOf(fact), factSpec(fact).label])),
  registered_at: 'Registered',
  expires_at: 'Expires',
  registrar: 'Registrar',
  statuses: 'Status',
  name_servers: 'Name servers',
  phase: 'Phase',
  first_seen_at: 'First seen',
  language: 'Language',
  subject: 'Subject',
  forward_to: 'Forwards to',
  judged: 'Your mark',
};

const TIMES = new Set(['registered_at', 'expires_at', 'first_seen_at']);
const LISTS = new Set(['statuses', 'name_servers']);
const FIGURES = new Map<string, StoredNumber>(STORED_NUMBERS.map((fact) => [columnOf(fact), fact]));

/** A stored value of a fact in words. */
export function factWords(fact: string, value: string | number | null): string {
  if (value === null) return 'none';
  if (TIMES.has(fact) && typeof value === 'number') return new Date(value).toISOString().slice(0, 10);
  if (LISTS.has(fact)) return listWords(String(value));
  const figureOf = FIGURES.get(fact);
  // what moved by less than a point has moved, too
  if (figureOf && typeof value === 'number' && factSpec(figureOf).written !== 'score') return figure(figureOf, value);
  if (fact === 'language') return languageName(String(value));
  if (fact === 'subject') return subjectTitle(String(value));
  if (fact === 'phase') return String(value).replace('-', ' ');
  return typeof value === 'number' ? tenths(value) : value;
}

function listWords(json: string): string {
  try {
    const list: unknown = JSON.parse(json);
    return Array.isArray(list) ? list.join(', ') || 'none' : json;
  } catch {
    return json;
  }
}
