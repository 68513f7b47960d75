import { tenths } from '../formats/figures';
import { languageName } from '../history/language-name';
import { subjectTitle } from '../topics/subjects';

/** What people call the facts whose changes are kept; keys are names of columns. */
export const FACT_TITLES: Record<string, string> = {
  strength: 'Strength',
  trust: 'Trust',
  referring_domains: 'Referring domains',
  backlinks: 'Linking pages',
  effective: 'Effective referrers',
  spam_risk: 'Spam risk',
  registered_at: 'Registered',
  expires_at: 'Expires',
  registrar: 'Registrar',
  statuses: 'Status',
  name_servers: 'Name servers',
  phase: 'Phase',
  first_seen_at: 'First seen',
  captures: 'Captures',
  content_years: 'Years of content',
  drift: 'Drift',
  drops: 'Drops',
  language: 'Language',
  subject: 'Subject',
  forward_to: 'Forwards to',
  marks_found: 'Word marks like it',
  judged: 'Your mark',
};

const TIMES = new Set(['registered_at', 'expires_at', 'first_seen_at']);
const LISTS = new Set(['statuses', 'name_servers']);
const ROUNDED = new Set(['strength', 'trust', 'effective', 'content_years']);

/** A stored value of a fact in words. */
export function factWords(fact: string, value: string | number | null): string {
  if (value === null) return 'none';
  if (TIMES.has(fact) && typeof value === 'number') return new Date(value).toISOString().slice(0, 10);
  if (LISTS.has(fact)) return listWords(String(value));
  if (ROUNDED.has(fact) && typeof value === 'number') return String(Math.round(value * 10) / 10);
  if (fact === 'drift' && typeof value === 'number') return value.toFixed(2);
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
