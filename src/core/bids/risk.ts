import { type Belief, meanMinor, quantileMinor } from './belief';

/** How sure a plan wants to be: of what a name is worth, and of having the money for what it bids. */
export const RISKS = ['cautious', 'even', 'bold'] as const;
export type Risk = (typeof RISKS)[number];

/** What a worth counts as: what it exceeds eight times in ten, its middle, or its mean. In its minor units. */
export function worthHeld(worth: Belief, risk: Risk): number {
  return risk === 'cautious'
    ? quantileMinor(worth, 0.2)
    : risk === 'even'
      ? quantileMinor(worth, 0.5)
      : meanMinor(worth);
}
