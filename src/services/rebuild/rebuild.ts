import { checklistOf, progressOf } from '../../core/rebuild/checklist';
import { type SiteOutline, siteOutline } from '../../core/rebuild/outline';
import { carryingSubjects, planPages } from '../../core/rebuild/plan';
import { pathOf } from '../../core/redirects/address';
import { clearSubject, subjectClassifier } from '../../core/topics/classifier';
import { subjectTitle } from '../../core/topics/subjects';
import { termsOf } from '../../core/topics/terms';
import type { Store } from '../../store/base/database';
import { readRates } from '../../store/base/settings';
import type { DomainRow } from '../../store/domains/domains';
import { capturePage, capturesOf } from '../../store/links/captures';
import { pastOf, readInspection } from '../../store/links/inspections';
import { holdingOf } from '../../store/portfolio/holdings';
import { readersByAddress, rebuildSteps } from '../../store/portfolio/rebuild';
import { listBriefs } from '../../store/shortlist/briefs';
import { rebuildFor } from '../plan/worth';
import { oldAddressesOf } from '../redirects/redirects';

/** Pages that are shown and written out; the rest have next to nothing. */
const MOST_PAGES = 300;
const NO_SUBJECT = 'no subject that shows';

/** What to bring back of a site, and how: pages by what they carry, subjects, its former outline, the checklist. */
export async function rebuildPlan(store: Store, row: DomainRow) {
  const holding = holdingOf(store, row.id);
  const briefs = listBriefs(store);
  const brief = briefs.find(({ id }) => id === holding?.briefId) ?? briefs[0];
  const worth = brief ? rebuildFor(store, row, brief) : null;
  const readers = new Map<string, number>();
  for (const { url, readers: claimed } of readersByAddress(store, row.id)) {
    const path = pathOf(url);
    if (path !== null) readers.set(path, (readers.get(path) ?? 0) + claimed);
  }
  const old = (await oldAddressesOf(store, row)).map((page) => ({ ...page, readers: readers.get(page.path) ?? 0 }));
  const plan = planPages(old, worth?.phrases ?? []);
  const classifier = subjectClassifier();
  const subjects = carryingSubjects(old, (text) => {
    // few words are a name rather than a text
    const terms = termsOf(text);
    return clearSubject(classifier.classify(terms, null)) ?? classifier.nameSubject([...terms.keys()]);
  }).map((subject) => ({ ...subject, title: subject.subject ? subjectTitle(subject.subject) : NO_SUBJECT }));
  const steps = checklistOf(plan.pages, rebuildSteps(store, row.id));
  return {
    isOwned: holding !== null,
    pages: plan.pages.slice(0, MOST_PAGES),
    pageCount: plan.pages.length,
    unplaced: plan.unplaced,
    measures: plan.measures,
    subjects,
    outline: outlineOf(store, row),
    steps,
    progress: progressOf(steps),
    currency: brief?.currency ?? readRates(store).home,
    worth: worth && { monthMinor: worth.monthMinor, sources: worth.sources, asOf: worth.asOf },
    linksAt: row.links_at,
  };
}

/** The last capture of its main era that was read whole; null: none was. */
function outlineOf(store: Store, row: DomainRow): SiteOutline | null {
  const past = pastOf(readInspection(store, row.id));
  const captures = capturesOf(store, row.id).filter(({ kind }) => kind === 'content');
  // without an era of the main subject, the last content is what there is
  const main = captures.filter(({ subject }) => subject !== null && subject === past?.subject);
  for (const { at, title } of (main.length > 0 ? main : captures).reverse()) {
    const blocks = capturePage(store, row.id, at);
    if (blocks && blocks.length > 0) return siteOutline(at, title, blocks);
  }
  return null;
}
