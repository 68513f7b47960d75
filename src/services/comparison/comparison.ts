import { languageName } from '../../core/history/language-name';
import { factSpec, SHOWN_NUMBERS } from '../../core/pool/facts';
import { compareFacts, type FactSpec } from '../../core/verdict/compare';
import { diligenceTally } from '../../core/verdict/diligence';
import { figure } from '../../core/wording/figures';
import { closing, count, day, offerTitle, phaseWords } from '../../core/wording/format';
import type { Store } from '../../store/base/database';
import { findDomain } from '../../store/domains/domains';
import { type Dossier, readDossier } from '../dossier/dossier';
import { referrersOf } from '../dossier/referrers';

/** So many domains stand side by side. */
export const MOST_COMPARED = 4;

const year = (at: number | null) => (at === null ? null : String(new Date(at).getUTCFullYear()));
const number = (value: number | null) => (value === null ? null : count(value));

/** Groups in their order; figures of the table of facts stand in the one that it names, behind what comes first there. */
const GROUPS = ['Offer', 'Links', 'Past', 'Name', 'Verdict', 'Record'];

function specs(now: number): FactSpec<Dossier>[] {
  const fact = (
    group: string,
    title: string,
    show: FactSpec<Dossier>['show'],
    better?: 'more' | 'less',
    measure?: FactSpec<Dossier>['measure'],
  ): FactSpec<Dossier> => ({ group, title, show, better, measure });
  const first = [
    fact('Offer', 'Status', (one) => phaseWords(one, now)),
    fact('Offer', 'Best offer', (one) => offerTitle(one) || null),
    fact('Offer', 'Closes', (one) => closing(one.closingAt, now) || null),
    fact('Past', 'Registered', (one) => year(one.registeredAt), 'less', (one) => one.registeredAt),
    fact('Past', 'First seen', (one) => year(one.firstSeenAt), 'less', (one) => one.firstSeenAt),
    fact('Name', 'Length', (one) => number(one.nameFacts.length), 'less', (one) => one.nameFacts.length),
  ]; // biome-ignore format: a fact a line
  const last = [
    fact('Links', 'Forwards to', (one) => one.forwardsTo ?? (one.frontAt === null ? null : 'nowhere')),
    fact('Links', 'Most used words', (one) => one.anchors[0]?.anchor || null),
    fact('Past', 'Subject', (one) => one.subject),
    fact('Past', 'Language', (one) => (one.language === null ? null : languageName(one.language))),
    fact('Verdict', 'Your mark', (one) => (one.judged === 'not-yet' ? null : one.judged)),
    fact('Verdict', 'Due diligence', (one) => {
      const { answered, all, bad } = diligenceTally(one.diligence);
      return `${answered} of ${all} answered${bad > 0 ? `, ${bad} against` : ''}`;
    }),
    fact('Record', 'Registrar', (one) => one.record.registrar),
    fact('Record', 'Expires', (one) => (one.record.expiresAt ? day(one.record.expiresAt, now) : null)),
  ]; // biome-ignore format: a fact a line
  const figures = SHOWN_NUMBERS.flatMap((of) => {
    const { label, compared } = factSpec(of);
    if (!compared) return [];
    const [group, better] = compared;
    return {
      ...fact(
        group,
        label,
        (one) => figure(of, one[of]) || null,
        better,
        (one) => one[of],
      ),
      of,
    };
  });
  return GROUPS.flatMap((group) => [...first, ...figures, ...last].filter((one) => one.group === group));
}

/** Up to four domains side by side; null for a name that is not known. */
export async function compareDomains(store: Store, names: readonly string[], briefId: number) {
  const now = store.now();
  const dossiers = await Promise.all(
    names.slice(0, MOST_COMPARED).map(async (name) => ({ name, dossier: await readDossier(store, name, briefId) })),
  );
  const known = dossiers.flatMap(({ dossier }) => dossier ?? []);
  return {
    missing: dossiers.flatMap(({ name, dossier }) => (dossier === null ? [name] : [])),
    domains: known,
    facts: compareFacts(known, specs(now)),
    shared: sharedReferrers(
      store,
      known.map(({ name }) => name),
    ),
  };
}

export type Comparison = Awaited<ReturnType<typeof compareDomains>>;

const SHARED_SHOWN = 10;

/** Referring domains that link to all of them, and how many each has to itself. */
function sharedReferrers(store: Store, names: readonly string[]) {
  const links = new Map<string, { linked: number; strength: number | null }>();
  const own = names.map((name) => {
    const row = findDomain(store, name);
    const { list } = row ? referrersOf(store, row) : { list: [] };
    for (const { site, strength } of list) {
      const entry = links.get(site);
      if (entry) entry.linked++;
      else links.set(site, { linked: 1, strength });
    }
    return list.map(({ site }) => site);
  });
  const inAll = [...links].filter(([, { linked }]) => names.length > 1 && linked === names.length);
  return {
    all: inAll.length,
    strongest: inAll
      .sort((a, b) => (b[1].strength ?? 0) - (a[1].strength ?? 0))
      .slice(0, SHARED_SHOWN)
      .map(([site]) => site),
    alone: own.map((sites) => sites.filter((site) => links.get(site)?.linked === 1).length),
  };
}
