import type { Condition } from '../../core/pool/conditions';
import { type FactName, factSpec, type MemberFact } from '../../core/pool/facts';

/** A condition on a fact before anything is set. */
export function freshCondition(fact: FactName): Condition {
  switch (factSpec(fact).kind) {
    case 'text':
      return { type: 'text', fact: 'name', mode: 'wordish', values: [], not: false };
    case 'choice':
      return { type: 'choice', fact: fact as never, values: [], not: false, keepUnknown: false };
    case 'member':
      return { type: 'member', fact: fact as MemberFact, values: [], not: false };
    default:
      return { type: 'range', fact: fact as never, min: null, max: null, keepUnknown: false };
  }
}
