import type { EnginePort } from '../../contracts/engine-port';
import { briefSieve } from '../../core/fit/brief-sieve';
import { type Condition, formatView, type SievePart, type Sort, TO_BE_HAD } from '../../core/pool/conditions';
import type { DomainView } from '../../core/pool/domain-view';
import { SPAM_FROM } from '../../core/spam/threshold';
import type { Store } from '../../store/base/database';
import { readDomains } from '../../store/domains/domains';
import type { Brief } from '../../store/shortlist/briefs';
import { shortlistIds } from '../../store/shortlist/shortlist';
import { fitsOf } from '../fit/fit';
import { domainView, viewRules } from '../pool/views';

type Fit = Awaited<ReturnType<typeof fitsOf>>[number];

export interface Find {
  view: DomainView;
  fit: Fit;
  /** Called spam, by its links or by the person. */
  isSpam: boolean;
}

/** So many of each order are weighed against the brief. */
const WEIGHED = 60;
const MEASURED: Condition = { type: 'range', fact: 'strength', min: 2, max: null, keepUnknown: false };

/**
 * What of the pool suits a brief best: of what can be had and whose links are measured, the first by the brief's own order, by trust and by
 * its words are weighed; the best fit by what is sure comes first, spam last.
 *
 * @returns also how many there are, and the address of all of them.
 */
export async function findsFor(store: Store, engine: EnginePort, brief: Brief, many: number) {
  const sieve = briefSieve(brief);
  const parts: SievePart[] = [...sieve.parts, MEASURED];
  const byTrust: Sort = { fact: 'trust', descending: true };
  const ask = (more: SievePart[], sorts: Sort[]) =>
    engine.queryPool({ parts: [...parts, ...more], sorts, offset: 0, limit: WEIGHED, histograms: [] });
  const words = brief.subjectWords.filter((word) => /^[\p{L}\p{N}-]+$/u.test(word));
  const [all, trusted, worded] = await Promise.all([
    ask([], sieve.sorts),
    ask([TO_BE_HAD], [byTrust]),
    words.length === 0
      ? null
      : ask([{ type: 'text', fact: 'name', mode: 'wordish', values: words, not: false }], [byTrust]),
  ]);
  const ids = [...new Set([...all.ids, ...trusted.ids, ...(worded?.ids ?? [])])];
  const rows = readDomains(store, ids);
  const fits = await fitsOf(engine, rows, brief);
  const shortlisted = shortlistIds(store, brief.id);
  const rules = viewRules(store);
  const finds = rows.map((row, n): Find => {
    const isSpam = row.judged === 'spam' || (row.judged !== 'clean' && (row.spam_risk ?? 0) >= SPAM_FROM);
    return { view: domainView(row, shortlisted.has(row.id), rules), fit: fits[n], isSpam };
  });
  finds.sort((a, b) => Number(a.isSpam) - Number(b.isSpam) || b.fit.least - a.fit.least || a.view.id - b.view.id);
  return {
    finds: finds.slice(0, many),
    total: all.total,
    address: formatView({ parts, sorts: [byTrust], columns: null }).toString(),
    /** Domains in the pool. */
    size: all.size,
  };
}
