'use client';

import type { Decision, WorthBy } from '../../contracts/decision';
import { money } from '../../core/wording/format';
import { FitLine, shortFit } from '../fit-line';
import { useDecision } from './use-decision';

const BY: Record<WorthBy, string> = {
  yours: 'as you say',
  sales: 'by similar sales',
  visits: 'by visits that would come back',
  links: 'by links that would be carried over',
};

const whole = (minor: number) => Math.round(minor / 100) * 100;

/** "200–400 EUR"; empty where it is not known. */
export const worthWords = ({ worth, currency }: Pick<Decision, 'worth' | 'currency'>): string =>
  worth === null ? '' : `${money(whole(worth.lowMinor), null)}–${money(whole(worth.highMinor), currency)}`;

/** Where a worth comes from. */
export const worthOrigin = ({ worth }: Pick<Decision, 'worth'>): string =>
  worth === null ? 'neither similar sales nor visits are known' : BY[worth.by];

const LINE_PX = 34;

/** The fit of a row of the pool. */
export function FitCell({ name }: { name: string }) {
  const decision = useDecision(name);
  if (!decision) return <span className="text-muted">…</span>;
  return shortFit(decision.fit) === '' ? null : <FitLine fit={decision.fit} width={LINE_PX} />;
}

/** The worth of a row of the pool. */
export function WorthCell({ name }: { name: string }) {
  const decision = useDecision(name);
  if (!decision) return <span className="text-muted">…</span>;
  return <span title={worthOrigin(decision)}>{worthWords(decision)}</span>;
}
