import type { JobOrder } from '../../store/jobs';

/**
 * Checks domains, then measures them: the second and third stage of the way from a source to the shortlist. With `since` (ms
 * since 1970 UTC), what was asked after that moment is not asked again.
 */
export function checkAndMeasure(which: { sourceId: number; since?: number } | { ids: number[] }): JobOrder {
  const sourceId = 'sourceId' in which ? which.sourceId : null;
  return { kind: 'check', sourceId, params: which, next: [{ kind: 'measure', sourceId, params: which }] };
}
