import { domainRow } from '../../../../../../../app/api/domain-row';
import { apacheConfig, nginxConfig, rulesCsv } from '../../../../../../../core/redirects/export';
import type { RedirectRule } from '../../../../../../../core/redirects/rules';
import { readRules } from '../../../../../../../store/portfolio/redirects';
import { Problem, route } from '../../../../../respond';

const FILES: Record<string, (rules: RedirectRule[], domain: string) => [name: string, type: string, text: string]> = {
  csv: (rules, domain) => [`${domain}-redirects.csv`, 'text/csv', rulesCsv(rules, domain)],
  nginx: (rules, domain) => [`${domain}.conf`, 'text/plain', nginxConfig(rules, domain)],
  'apache-map': (rules, domain) => [`${domain}.map`, 'text/plain', apacheOf(rules, domain).map],
  'apache-queries': (rules, domain) => [`${domain}.map.queries`, 'text/plain', apacheOf(rules, domain).queries],
  'apache-host': (rules, domain) => [`${domain}.vhost.conf`, 'text/plain', apacheOf(rules, domain).host],
};
const apacheOf = (rules: RedirectRule[], domain: string) => apacheConfig(rules, domain, `/etc/apache2/${domain}.map`);

/** Decided rules as a file: CSV, a configuration of nginx, or the parts that Apache wants. */
export const GET = route('GET /domains/{name}/redirects/file', async ({ request, params: { name } }) => {
  const { store, row } = await domainRow(name);
  const format = request.nextUrl.searchParams.get('format') ?? 'csv';
  const write = Object.hasOwn(FILES, format) ? FILES[format] : null;
  if (!write)
    throw new Problem(
      400,
      'The request makes no sense',
      `"${format.slice(0, 40)}" is none of ${Object.keys(FILES).join(', ')}.`,
    );
  const [file, type, text] = write(readRules(store, row.id), row.name);
  return new Response(text, {
    headers: { 'content-type': `${type}; charset=utf-8`, 'content-disposition': `attachment; filename="${file}"` },
  });
});
