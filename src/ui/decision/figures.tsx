'use client';

import type { Decision, WorthBy } from '../../contracts/decision';
import type { Explanation } from '../../core/pool/explain';
import { money } from '../../core/wording/format';
import { FitLine, shortFit } from '../fit-line';
import { type MoneyFigures, MoneyLine, moneyWords, spanOf } from '../parts/money-line';
import { useDecision, useDecisionsOn } from './use-decision';

const BY: Record<WorthBy, string> = {
  yours: 'as you say',
  sales: 'by similar sales',
  visits: 'by visits that would come back',
  links: 'by links that would be carried over',
};

export const FIT_EXPLAINED: Explanation = {
  what: 'How well it suits the brief: what is sure, and what it may be at most.',
  from: '0 to 100, from name, subject, links, history and language, weighed as the brief has it.',
};
export const WORTH_EXPLAINED: Explanation = {
  what: 'What it is worth, six times in ten between these two.',
  from: 'In the currency of the brief: as you say, else by similar sales, visits or links; empty where none is known.',
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

const moneyOf = ({ priceMinor, rivalsMinor, maximumMinor, worth }: Decision): MoneyFigures => ({
  priceMinor,
  rivalsMinor,
  maximumMinor,
  worthLowMinor: worth?.lowMinor ?? null,
  worthHighMinor: worth?.highMinor ?? null,
});

/** Price, rivals, maximum and worth on one line, with the words below: wherever a price is decided. */
export function Money({
  decision,
  beside = [decision],
  width,
}: {
  decision: Decision;
  /** All that stand beside it: their lines reach as far. */
  beside?: readonly Decision[];
  width: number;
}) {
  const { currency, worth } = decision;
  const figures = moneyOf(decision);
  if (figures.priceMinor === null && worth === null) return null;
  return (
    <div data-money={decision.name}>
      <MoneyLine figures={figures} currency={currency} span={spanOf(beside.map(moneyOf))} width={width} />
      <p className="small">
        {moneyWords(figures, currency)}
        {worth !== null && ` ${worthOrigin(decision)}`}
      </p>
    </div>
  );
}

/** The same for a name of which only the name is known here. */
export function MoneyOf({ name, width }: { name: string; width: number }) {
  const decision = useDecision(name);
  return decision ? <Money decision={decision} width={width} /> : <p className="small h-9">…</p>;
}

/** Fit over the money line of one of several, as they stand beside each other. */
export function FitAndWorth({ name, names, width }: { name: string; names: readonly string[]; width: number }) {
  const all = useDecisionsOn(names);
  const decision = all.find((one) => one.name === name);
  if (!decision) return <span className="small">…</span>;
  return (
    <>
      <FitCell name={name} />
      <Money decision={decision} beside={all} width={width} />
    </>
  );
}
