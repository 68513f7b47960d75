import { Refusal } from '../refusal';
import { problemsOf, type RedirectRule } from './rules';

/** Rules that cannot be written, since following them would not end or not be one thing. */
export class RulesRefused extends Refusal {
  constructor(message: string, options: ErrorOptions = {}) {
    super('rules-refused', message, { ...options, advice: 'Change that rule first.' });
  }
}

function checked(rules: readonly RedirectRule[], domain: string): RedirectRule[] {
  const [problem] = problemsOf(rules, domain);
  if (problem) throw new RulesRefused(`${problem.kind}: ${problem.from}`);
  const seen = new Set<string>();
  return rules.filter(({ from }) => !seen.has(from) && seen.add(from)).sort((a, b) => (a.from < b.from ? -1 : 1));
}

/** RFC 4180. @throws RulesRefused */
export function rulesCsv(rules: readonly RedirectRule[], domain: string): string {
  const cell = (text: string) => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
  const lines = checked(rules, domain).map(
    ({ from, to }) => `${cell(from)},${cell(to ?? '')},${to === null ? 410 : 301}`,
  );
  return `${['from,to,status', ...lines].join('\r\n')}\r\n`;
}

/**
 * Configuration for nginx: maps by the whole request, and the server that uses them. Addresses that no rule names are gone, too: sent to a
 * home page they would carry nothing.
 *
 * A map of nginx looks strings up without regard to case, so a second one says which case was meant; addresses that differ by nothing
 * else are looked up as patterns, which it tells apart.
 *
 * @throws RulesRefused
 */
export function nginxConfig(rules: readonly RedirectRule[], domain: string, listen = '80'): string {
  const quoted = (text: string) => `"${text.replaceAll('"', '%22').replaceAll('\\', '%5C')}"`;
  // in what a map gives, a dollar begins a variable; in what it looks up, it does not
  const given = (text: string) => quoted(text).replaceAll('$', `\${dollar}`);
  const moved = checked(rules, domain).filter((rule): rule is { from: string; to: string } => rule.to !== null);
  const cases = new Map<string, number>();
  for (const { from } of moved) cases.set(from.toLowerCase(), (cases.get(from.toLowerCase()) ?? 0) + 1);
  const key = (from: string) =>
    cases.get(from.toLowerCase()) === 1 ? quoted(from) : quoted(`~^\\Q${from}\\E$`).replaceAll('%5C', '\\');
  const map = (variable: string, value: (rule: { from: string; to: string }) => string) => [
    `map $request_uri $${variable} {`,
    '  default "";',
    ...moved.map((rule) => `  ${key(rule.from)} ${given(value(rule))};`),
    '}',
  ];
  return [
    'geo $dollar { default "$"; }',
    'map_hash_max_size 65536;',
    'map_hash_bucket_size 2048;',
    ...map('moved_to', ({ to }) => to),
    ...map('moved_from', ({ from }) => from),
    'server {',
    `  listen ${listen};`,
    `  server_name ${domain} www.${domain};`,
    '  if ($moved_from != $request_uri) { return 410; }',
    '  return 301 $moved_to;',
    '}',
    '',
  ].join('\n');
}

/** What Apache is given: two maps as text, and the lines of a virtual host that use them. */
export interface ApacheRules {
  /** Where each address moves, without a query. */
  map: string;
  /** The query of where it moves; mod_rewrite takes a question mark from nobody but the rule itself. */
  queries: string;
  host: string;
}

/**
 * The same for Apache's mod_rewrite. The key is the path with its query, escaped as it came.
 *
 * @param mapPath where the map will lie; the queries beside it, with `.queries` after its name.
 * @throws RulesRefused
 */
export function apacheConfig(rules: readonly RedirectRule[], domain: string, mapPath: string): ApacheRules {
  const moved = checked(rules, domain).flatMap(({ from, to }) =>
    to === null ? [] : [[from, to.replaceAll(' ', '%20')]],
  );
  const lines = (all: string[][]) => all.map((pair) => `${pair.join(' ')}\n`).join('');
  return {
    map: lines(moved.map(([from, to]) => [from, to.split('?')[0]])),
    queries: lines(
      moved.filter(([, to]) => to.includes('?')).map(([from, to]) => [from, to.slice(to.indexOf('?') + 1)]),
    ),
    host: [
      `ServerName ${domain}`,
      `ServerAlias www.${domain}`,
      'RewriteEngine On',
      `RewriteMap moved "txt:${mapPath}"`,
      `RewriteMap queries "txt:${mapPath}.queries"`,
      // the request line has the address as it was asked for, with its escapes
      'RewriteCond %{THE_REQUEST} "^[A-Z]+ ([^ ]+) HTTP"',
      // biome-ignore lint/suspicious/noTemplateCurlyInString: Apache's own way to look a map up
      'RewriteCond ${moved:%1} "!^$"',
      // biome-ignore lint/suspicious/noTemplateCurlyInString: the same
      'RewriteRule ^ "${moved:%1}?${queries:%1}" [R=301,NE,L]',
      'RewriteRule ^ - [G]',
      '',
    ].join('\n'),
  };
}
