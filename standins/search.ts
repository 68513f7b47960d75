import type { Page } from './pages';
import { hash } from './random';
import type { World } from './world';

export const SEARCH_HOST = 'valefinder.com';
const MOST = 60;

const escapeXml = (text: string) =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/** A search over the link sources: OpenSearch 1.1 description, answers in Atom (RFC 4287). */
export function searchAnswer(world: World, host: string, address: string, now: number): Page | null {
  if (host !== SEARCH_HOST) return null;
  const url = new URL(address, `http://${SEARCH_HOST}`);
  if (url.pathname === '/opensearch.xml')
    return {
      status: 200,
      headers: { 'content-type': 'application/opensearchdescription+xml' },
      body: `<?xml version="1.0" encoding="UTF-8"?>
<OpenSearchDescription xmlns="http://a9.com/-/spec/opensearch/1.1/">
  <ShortName>Vale Finder</ShortName>
  <Description>Pages of the Merrow Vale</Description>
  <Url type="text/html" template="http://${SEARCH_HOST}/?q={searchTerms}"/>
  <Url type="application/atom+xml" template="http://${SEARCH_HOST}/search.atom?q={searchTerms}&amp;n={count?}"/>
</OpenSearchDescription>`,
    };
  if (url.pathname !== '/search.atom')
    return { status: 404, headers: { 'content-type': 'text/plain' }, body: 'see /opensearch.xml' };
  const phrase = url.searchParams.get('q') ?? '';
  const count = Math.min(MOST, Number(url.searchParams.get('n')) || 20);
  const entries = find(world, phrase)
    .slice(0, count)
    .map(
      ({ name, path, title }) => `  <entry>
    <title>${escapeXml(title)}</title>
    <link href="http://${name}${escapeXml(path)}"/>
    <id>http://${name}${escapeXml(path)}</id>
    <updated>${new Date(now).toISOString()}</updated>
    <summary>${escapeXml(`A page of ${name} about the ${phrase}.`)}</summary>
  </entry>`,
    );
  return {
    status: 200,
    headers: { 'content-type': 'application/atom+xml' },
    body: `<?xml version="1.0" encoding="UTF-8"?>
<feed xmlns="http://www.w3.org/2005/Atom" xmlns:opensearch="http://a9.com/-/spec/opensearch/1.1/">
  <title>Vale Finder: ${escapeXml(phrase)}</title>
  <id>http://${SEARCH_HOST}/search.atom</id>
  <updated>${new Date(now).toISOString()}</updated>
  <opensearch:totalResults>${entries.length}</opensearch:totalResults>
${entries.join('\n')}
</feed>`,
  };
}

/** Pages whose title has every word of the phrase, in an order that looks arbitrary and stays the same. */
function find(world: World, phrase: string): { name: string; path: string; title: string }[] {
  const words = phrase.toLowerCase().match(/\p{L}+/gu) ?? [];
  if (words.length === 0) return [];
  const found: { name: string; path: string; title: string; order: number }[] = [];
  for (const [name, { pages }] of world.sites)
    for (const { path, title } of pages.values()) {
      const has = new Set(title.toLowerCase().match(/\p{L}+/gu));
      if (words.every((word) => has.has(word))) found.push({ name, path, title, order: hash(`${name}${path}`) });
    }
  return found.sort((a, b) => a.order - b.order);
}
