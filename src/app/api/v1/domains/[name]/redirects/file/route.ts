import { domainRow } from '../../../../../../../app/api/domain-row';
import type { REDIRECT_FILES } from '../../../../../../../contracts/redirects';
import { apacheConfig, nginxConfig, rulesCsv } from '../../../../../../../core/redirects/export';
import type { RedirectRule } from '../../../../../../../core/redirects/rules';
import { readRules } from '../../../../../../../store/portfolio/redirects';
import { route } from '../../../../../respond';

const FILES: Record<
  (typeof REDIRECT_FILES)[number],
  (rules: RedirectRule[], domain: string) => [name: string, type: string, text: string]
> = {
  csv: (rules, domain) => [`${domain}-redirects.csv`, 'text/csv', rulesCsv(rules, domain)],
  nginx: (rules, domain) => [`${domain}.conf`, 'text/plain', nginxConfig(rules, domain)],
  'apache-map': (rules, domain) => [`${domain}.map`, 'text/plain', apacheOf(rules, domain).map],
  'apache-queries': (rules, domain) => [`${domain}.map.queries`, 'text/plain', apacheOf(rules, domain).queries],
  'apache-host': (rules, domain) => [`${domain}.vhost.conf`, 'text/plain', apacheOf(rules, domain).host],
};
const apacheOf = (rules: RedirectRule[], domain: string) => apacheConfig(rules, domain, `/etc/apache2/${domain}.map`);

/** Decided rules as a file: CSV, a configuration of nginx, or the parts that Apache wants. */
export const GET = route('GET /domains/{name}/redirects/file', async ({ query: { format }, params: { name } }) => {
  const { store, row } = await domainRow(name);
  const [file, type, text] = FILES[format](readRules(store, row.id), row.name);
  return new Response(text, {
    headers: { 'content-type': `${type}; charset=utf-8`, 'content-disposition': `attachment; filename="${file}"` },
  });
});
