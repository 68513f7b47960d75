import type { SpamInput } from './input';
import shipped from './points.json';
import { boundWords, reach, SPAM_RULES, type SpamRule } from './rules';

/** Points of each rule, and what they were fitted on. */
export interface SpamPoints {
  /** All the points a rule can give, by rule; risk is their sum, at most 100. */
  points: Record<string, number>;
  /** Words on the examples they come from. */
  fittedOn: string;
}

/** The points that ship with the product; the script that makes them is bench/train.ts. */
export const SHIPPED_POINTS: SpamPoints = shipped;

export interface RuleResult {
  rule: string;
  title: string;
  /** Measured value, in the unit of the rule; null when there was nothing to measure. */
  value: number | null;
  /** The value as people read it. */
  shown: string;
  /** Points towards 100; 0 when the rule does not bite. */
  points: number;
  maxPoints: number;
  /** The links, anchors or figures behind it, at most 8. */
  evidence: string[];
  /** What the rule looks for. */
  explanation: string;
  /** What would change its points. */
  change: string;
}

export interface SpamCard {
  /** 0 to 100, higher is worse; null when no rule that says something by itself had anything to measure. */
  risk: number | null;
  results: RuleResult[];
}

const MOST_EVIDENCE = 8;
const ASIDE: ReadonlySet<string> = new Set(SPAM_RULES.flatMap(({ id, isAside }) => (isAside ? [id] : [])));

/** Judges one domain by every rule. Risk is the sum of points, at most 100. */
export function scoreSpam(input: SpamInput, { points }: SpamPoints = SHIPPED_POINTS): SpamCard {
  return cardOf(
    SPAM_RULES.map((rule) => {
      const found = rule.measure(input);
      return resultOf(
        rule,
        found?.value ?? null,
        found?.shown ?? 'too little to measure',
        found?.evidence ?? [],
        points,
      );
    }),
  );
}

/** A card under other points, from the values that it holds. Rules that have gone are left out, new ones are not measured. */
export function rescore(card: SpamCard, { points }: SpamPoints): SpamCard {
  const before = new Map(card.results.map((result) => [result.rule, result]));
  return cardOf(
    SPAM_RULES.map((rule) => {
      const was = before.get(rule.id);
      return resultOf(rule, was?.value ?? null, was?.shown ?? 'not measured yet', was?.evidence ?? [], points);
    }),
  );
}

/** Values of a card by rule, as points are fitted on. */
export function valuesOf(card: SpamCard): Record<string, number | null> {
  return Object.fromEntries(card.results.map(({ rule, value }) => [rule, value]));
}

function cardOf(results: RuleResult[]): SpamCard {
  const isMeasured = results.some(({ rule, value }) => value !== null && !ASIDE.has(rule));
  const sum = results.reduce((total, { points }) => total + points, 0);
  return { risk: isMeasured ? Math.min(100, Math.round(sum)) : null, results };
}

function resultOf(
  rule: SpamRule,
  value: number | null,
  shown: string,
  evidence: string[],
  points: Record<string, number>,
): RuleResult {
  const maxPoints = points[rule.id] ?? 0;
  return {
    rule: rule.id,
    title: rule.title,
    value,
    shown,
    points: Math.round(reach(rule, value) * maxPoints * 10) / 10,
    maxPoints: Math.round(maxPoints * 10) / 10,
    evidence: evidence.slice(0, MOST_EVIDENCE),
    explanation: rule.explanation,
    change: changeWords(rule, value, maxPoints),
  };
}

/** From where to where points rise, and where this value stands. */
function changeWords(rule: SpamRule, value: number | null, maxPoints: number): string {
  const [from, to] = [boundWords(rule, rule.from), boundWords(rule, rule.to)];
  if (value === null) return `would count from ${from}, and fully from ${to}`;
  if (maxPoints < 0.05) return 'told nothing in the examples, so it has no points';
  if (value <= rule.from) return `none up to ${from}`;
  if (value >= rule.to) return `all of them from ${to}; under ${from} none`;
  return `none under ${from}, all from ${to}`;
}
