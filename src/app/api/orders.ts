import type { JobOrder } from '../../store/jobs';

/** Checks domains, then measures them: the second and third stage of the way from a source to the shortlist. */
export function checkAndMeasure(which: { sourceId: number } | { ids: number[] }): JobOrder {
  const sourceId = 'sourceId' in which ? which.sourceId : null;
  return { kind: 'check', sourceId, params: which, next: [{ kind: 'measure', sourceId, params: which }] };
}
