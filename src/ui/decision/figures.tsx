'use client';

import type { Decision } from '../../contracts/decision';
import { type MoneyFigures, MoneyLine, moneyWords, spanOf } from '../parts/money-line';
import { FitCell, worthOrigin } from './cells';
import { useDecision, useDecisionsOn } from './use-decision';

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
