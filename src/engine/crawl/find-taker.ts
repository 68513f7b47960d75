import { LEFT_OUT_AT_FIRST, type LeaveOut, LeaveOutRules, maskOf } from '../../core/crawl/leave-out';
import type { RegistrableDomain } from '../../core/names/domain';
import type { Store } from '../../store/base/database';
import { isNamed, namedBefore, putCauses } from '../../store/crawl/find-causes';
import { putDomain, putSighting } from '../../store/domains/domains';
import { listBriefs } from '../../store/shortlist/briefs';
import { makeSplitter } from '../pool/splitter';

export interface FindSwitches {
  leaveOut?: readonly LeaveOut[];
  knownSites: readonly string[];
  excludedEndings: readonly string[];
  briefId: number | null;
}

/** What became of a domain that a source names. */
export interface TakenFind {
  id: number;
  /** Whether it came new into the pool. */
  isNew: boolean;
  /** named: the source named it before; out: a switch leaves it out. */
  fate: 'find' | 'out' | 'named';
}

/** Takes what a source names: into its finds, or beside them where a switch leaves it out. */
export class FindTaker {
  private readonly rules: LeaveOutRules;
  private mask: number;

  constructor(
    private readonly store: Store,
    private readonly sourceId: number,
    { leaveOut = LEFT_OUT_AT_FIRST, knownSites, excludedEndings, briefId }: FindSwitches,
  ) {
    const unwantedWords = listBriefs(store).find(({ id }) => id === briefId)?.unwantedWords ?? [];
    const splitter = unwantedWords.length > 0 ? makeSplitter(store) : null;
    this.rules = new LeaveOutRules(
      { knownSites, excludedEndings, unwantedWords },
      (label) => splitter?.split(label).words ?? [],
    );
    this.mask = maskOf(leaveOut);
  }

  /** What a person switched meanwhile. */
  setSwitches(leaveOut: readonly LeaveOut[]): void {
    this.mask = maskOf(leaveOut);
  }

  /** Call inside a write transaction. @param said asked for only when it is kept. */
  take(domain: RegistrableDomain, at: number, line: number | null, said: () => object): TakenFind {
    const { store, sourceId } = this;
    const before = namedBefore(store, domain.name);
    if (before.id !== null && isNamed(store, sourceId, before.id))
      return { id: before.id, isNew: false, fate: 'named' };
    const causes = this.rules.causesOf(domain, before);
    const isOut = (causes & this.mask) !== 0;
    const { id, isNew } = putDomain(store, domain, !isOut, at);
    if (causes !== 0) putCauses(store, { sourceId, domainId: id, causes, isOut, at, line, said: isOut ? said() : {} });
    if (isOut) return { id, isNew: false, fate: 'out' };
    putSighting(store, id, sourceId, at, line, said());
    return { id, isNew, fate: 'find' };
  }
}
