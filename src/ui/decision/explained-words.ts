import type { Explanation } from '../../core/pool/explain';

export const FIT_EXPLAINED: Explanation = {
  what: 'How well it suits the brief: what is sure, and what it may be at most.',
  from: '0 to 100, from name, subject, links, history and language, weighed as the brief has it.',
};
export const WORTH_EXPLAINED: Explanation = {
  what: 'What it is worth, six times in ten between these two.',
  from: 'In the currency of the brief: as you say, else by similar sales, visits or links; empty where none is known.',
};
