import type { Proposal } from './match';

/** What happens to an old address: it moves (301), or it is gone (410). */
export interface RedirectRule {
  /** Path with query of the old site. */
  from: string;
  /** Whole address; null: gone. */
  to: string | null;
}

/** A move that many old addresses share: what begins with one prefix goes on under another. */
export interface RedirectPattern {
  fromPrefix: string;
  toPrefix: string;
  /** Old addresses that move like that by their best candidate. */
  paths: string[];
}

export type RuleProblem =
  /** It leads back to where it came from, at once or by others. */
  | { kind: 'loop'; from: string; by: string[] }
  /** It leads to an address that itself moves: the browser is sent twice. */
  | { kind: 'chain'; from: string; to: string }
  /** Two rules for one address. */
  | { kind: 'collision'; from: string; to: (string | null)[] }
  /** What cannot be an address of the old site. */
  | { kind: 'no address'; from: string };

/** Fewer are no pattern. */
const LEAST_ALIKE = 3;

/** Moves that at least three old addresses share, the commonest first; none of them within another. */
export function patternsOf(proposals: readonly Proposal[]): RedirectPattern[] {
  const groups = new Map<string, RedirectPattern>();
  for (const { old, candidates } of proposals) {
    const [best] = candidates;
    if (!best) continue;
    const to = new URL(best.url);
    const shared = sharedTail(old.path, to.pathname);
    if (shared === 0) continue;
    const fromPrefix = old.path.slice(0, old.path.length - shared);
    const toPrefix = `${to.origin}${to.pathname.slice(0, to.pathname.length - shared)}`;
    const key = `${fromPrefix} ${toPrefix}`;
    const group = groups.get(key) ?? { fromPrefix, toPrefix, paths: [] };
    group.paths.push(old.path);
    groups.set(key, group);
  }
  return [...groups.values()]
    .filter(({ paths }) => paths.length >= LEAST_ALIKE)
    .sort((a, b) => b.paths.length - a.paths.length || a.fromPrefix.localeCompare(b.fromPrefix));
}

/** Length of what two paths end alike in, from a slash on; the whole of one is no tail. */
function sharedTail(first: string, second: string): number {
  let length = 0;
  while (length < first.length && length < second.length && first.at(-1 - length) === second.at(-1 - length)) length++;
  const tail = first.slice(first.length - length);
  const slash = tail.indexOf('/');
  return slash < 0 || tail.length - slash - 1 < 3 ? 0 : tail.length - slash - 1;
}

/** What is wrong with rules for a domain; none: they can be used. */
export function problemsOf(rules: readonly RedirectRule[], domain: string): RuleProblem[] {
  const problems: RuleProblem[] = [];
  const byFrom = new Map<string, RedirectRule[]>();
  for (const rule of rules) {
    if (!/^\/[^\s"\\]*$/.test(rule.from)) problems.push({ kind: 'no address', from: rule.from });
    byFrom.set(rule.from, [...(byFrom.get(rule.from) ?? []), rule]);
  }
  for (const [from, same] of byFrom)
    if (new Set(same.map(({ to }) => to)).size > 1)
      problems.push({ kind: 'collision', from, to: same.map(({ to }) => to) });
  const next = new Map(
    [...byFrom].map(([from, [rule]]) => [from, rule.to === null ? null : pathHere(rule.to, domain)]),
  );
  for (const [from, to] of next) {
    if (to === null || to === undefined) continue;
    const by = [from];
    let at: string | null | undefined = to;
    while (at !== null && at !== undefined && next.has(at) && !by.includes(at)) {
      by.push(at);
      at = next.get(at);
    }
    if (at === from) problems.push({ kind: 'loop', from, by });
    else if (next.has(to)) problems.push({ kind: 'chain', from, to });
  }
  return problems;
}

/** The path of an address on the domain itself, with or without www; null: it is elsewhere. */
function pathHere(address: string, domain: string): string | null {
  const url = new URL(address);
  return url.hostname.replace(/^www\./, '') === domain ? `${url.pathname}${url.search}` : null;
}

/** How much of the referrers' weight rules carry to a page that is like the old one. */
export function carried(rules: readonly RedirectRule[], proposals: readonly Proposal[]) {
  const byFrom = new Map(rules.map((rule) => [rule.from, rule]));
  let [all, moved, relevant] = [0, 0, 0];
  for (const { old, candidates } of proposals) {
    all += old.weight;
    const to = byFrom.get(old.path)?.to;
    if (!to) continue;
    moved += old.weight;
    relevant += old.weight * (candidates.find(({ url }) => url === to)?.confidence ?? 0);
  }
  return { all, moved, relevant };
}
