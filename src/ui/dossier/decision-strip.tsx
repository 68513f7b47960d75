'use client';

import type { ReactNode } from 'react';
import type { FactName } from '../../core/pool/facts';
import { worthOrigin, worthWords } from '../decision/cells';
import { FIT_EXPLAINED, WORTH_EXPLAINED } from '../decision/explained-words';
import { Money } from '../decision/figures';
import { useDecision } from '../decision/use-decision';
import { FitLine, shortFit } from '../fit-line';
import { ExplainedWord, Measure } from '../parts/explained';

/** A figure as the page has it, with where it comes from. */
export interface StripFact {
  fact: FactName;
  label: string;
  /** Empty: not known. */
  value: string;
  origin: string;
}

/** What a decision goes by, on one line above all evidence: how it stands, what it costs and is worth, and what it is. */
export function DecisionStrip({ name, facts }: { name: string; facts: readonly StripFact[] }) {
  const decision = useDecision(name);
  return (
    <section aria-label="What decides" className="mt-3 border-t border-rule pt-1.5">
      <dl className="flex flex-wrap gap-x-7 gap-y-1.5">
        <Figure label={<ExplainedWord words={FIT_EXPLAINED}>Fit</ExplainedWord>}>
          {decision ? shortFit(decision.fit) === '' ? <Unknown /> : <FitLine fit={decision.fit} width={40} /> : '…'}
        </Figure>
        <Figure label={<ExplainedWord words={WORTH_EXPLAINED}>Worth</ExplainedWord>}>
          {decision ? <span title={worthOrigin(decision)}>{worthWords(decision) || <Unknown />}</span> : '…'}
        </Figure>
        {facts.map(({ fact, label, value, origin }) => (
          <Figure key={fact} label={<Measure fact={fact}>{label}</Measure>}>
            {value === '' ? <Unknown /> : <span title={origin}>{value}</span>}
          </Figure>
        ))}
      </dl>
      <div className="mt-1 min-h-9">{decision && <Money decision={decision} width={520} />}</div>
    </section>
  );
}

function Figure({ label, children }: { label: ReactNode; children: ReactNode }) {
  return (
    <div>
      <dt className="small">{label}</dt>
      <dd className="text-[15px] leading-tight font-semibold">{children}</dd>
    </div>
  );
}

const Unknown = () => <span className="font-normal text-muted">not known</span>;
