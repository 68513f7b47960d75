import { ownerSigns } from './owners';
import { hash, Random } from './random';
import type { SitePage, SourceSite } from './sites';
import { stateAt, type World, type WorldDomain, type WorldLink } from './world';

export interface Page {
  status: number;
  headers: Record<string, string>;
  body: string | Buffer;
  /** ms before it is sent. */
  delayMs?: number;
  /** The connection breaks after this part of the body. */
  cutAt?: number;
}

const html = (status: number, body: string, headers: Record<string, string> = {}): Page => ({
  status,
  headers: { 'content-type': 'text/html; charset=utf-8', ...headers },
  body,
});

const escapeHtml = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/"/g, '&quot;');

/** What a host answers to a path at a moment; null: nothing is there to answer. */
export function pageOf(world: World, host: string, path: string, now: number): Page | null {
  const domain = world.domains.get(host.replace(/^www\./, ''));
  if (!domain) return null;
  const { span, delegated } = stateAt(domain, now);
  if (!span || !delegated) return null;
  if (path === '/robots.txt') return robots(world, domain);
  switch (span.use) {
    case 'bare':
      return null;
    case 'parked':
      return html(
        200,
        `<!doctype html><title>${domain.name}</title><p>This name is parked. <a href="http://pennywhistlenames.com/">Buy it</a></p>`,
      );
    case 'casino':
      return html(
        200,
        `<!doctype html><title>Best bonus</title><p>Play slots and poker. <a href="/play">Play now</a></p>`,
      );
    case 'forward':
      return html(302, '', { location: `http://${span.forwardTo ?? 'example.org'}/` });
    case 'site':
      return sitePage(world, domain, path);
  }
}

function robots(world: World, domain: WorldDomain): Page {
  const manners = world.sites.get(domain.name)?.site.manners ?? [];
  const rules = manners.includes('forbidding')
    ? 'User-agent: *\nDisallow: /\nAllow: /$\nAllow: /contact.html\n'
    : domain.role === 'source'
      ? 'User-agent: *\nDisallow: /private/\n'
      : 'User-agent: *\nDisallow:\n';
  return { status: 200, headers: { 'content-type': 'text/plain' }, body: rules };
}

function sitePage(world: World, domain: WorldDomain, path: string): Page {
  const source = world.sites.get(domain.name);
  if (source) return sourcePage(world, domain, source, path);
  if (domain.role === 'hub') return html(200, layout(domain, domain.title, prose(domain, '/', 2)));
  const links = world.byPage.get(`${domain.name} ${path}`);
  if (path !== '/' && !links) return html(404, '<!doctype html><title>Not here</title><p>No such page.</p>');
  const others = path === '/' ? pagesOf(world, domain) : ['/'];
  return html(
    200,
    layout(
      domain,
      domain.title,
      `${prose(domain, path, 2)}${list(linksNow(domain, path, links ?? []))}${nav(others)}`,
      ownerSigns(domain).script,
    ),
  );
}

/** Some sites have tidied up since the index saw them: links went, or all became nofollow. */
function linksNow(domain: WorldDomain, path: string, links: WorldLink[]): WorldLink[] {
  const draw = hash(`tidied ${domain.name} ${path}`) % 100;
  if (domain.role === 'network' || draw >= 12) return links;
  return draw < 8 ? links.slice(0, Math.floor(links.length / 2)) : links.map((link) => ({ ...link, nofollow: true }));
}

const pagesByDomain = new WeakMap<World, Map<string, string[]>>();
function pagesOf(world: World, domain: WorldDomain): string[] {
  let byDomain = pagesByDomain.get(world);
  if (!byDomain) {
    byDomain = new Map();
    for (const key of world.byPage.keys()) {
      const [name, path] = key.split(' ');
      const paths = byDomain.get(name);
      if (paths) paths.push(path);
      else byDomain.set(name, [path]);
    }
    pagesByDomain.set(world, byDomain);
  }
  return byDomain.get(domain.name) ?? [];
}

function sourcePage(
  world: World,
  domain: WorldDomain,
  source: { site: SourceSite; pages: Map<string, SitePage> },
  address: string,
): Page {
  const { site, pages } = source;
  const has = (manner: SourceSite['manners'][number]) => site.manners.includes(manner);
  if (has('challenge'))
    return html(200, '<!doctype html><title>One moment</title><p>Checking that you are a person. Enable scripts.</p>');
  if (has('consent'))
    return html(
      200,
      '<!doctype html><title>Before you continue</title><p>We value your privacy. Accept all cookies to read on.</p><button>Accept</button>',
    );
  const [withSession, query = ''] = address.split('?', 2);
  const plain = withSession.replace(/;sid=\w+$/, '');
  if (has('calendar') && plain.startsWith('/calendar/')) return calendar(plain);
  const isMirror = has('mirror') && plain.startsWith('/mirror/');
  const path = isMirror ? plain.slice('/mirror'.length) : plain;
  const found = oddPage(path) ?? pages.get(path);
  if (has('facets') && path === '/goods/' && query !== '') return shelf(domain, query);
  if (!found) {
    if (has('deeper') && /\/more\/(more\/)*$/.test(path))
      return html(200, layout(domain, 'More', `${prose(domain, path, 1)}<a href="more/">more</a>`));
    if (has('soft-404'))
      return html(200, layout(domain, 'Our pages', `<p>What you look for is not with us any more.</p>${nav(['/'])}`));
    return html(404, '<!doctype html><title>Not here</title><p>No such page.</p>');
  }
  if ('status' in found) return found;
  const links = world.byPage.get(`${domain.name} ${path}`) ?? [];
  let inside = found.inside.map((to) => (isMirror ? `/mirror${to}` : to));
  if (path === '/') inside = [...inside, ...ODD_PATHS, ...extraPaths(site)];
  if (has('deeper') && found.kind === 'index') inside.push('more/');
  if (has('facets') && path === '/goods/') inside.push(...facetPaths(''));
  if (has('sessions'))
    inside = inside.map((to) => (to.startsWith('/') ? `${to};sid=${hash(address + to).toString(36)}` : to));
  const paragraphs = { home: 3, index: 1, article: 5, old: 4, list: 1 }[found.kind];
  const head = has('noindex') && found.kind === 'article' ? '<meta name="robots" content="noindex">' : '';
  const text = layout(
    domain,
    found.title,
    `${prose(domain, path, paragraphs)}${list(links)}${nav(inside)}${found.readers === undefined ? '' : asQuestion(found)}`,
    head,
  );
  const page = html(200, text);
  if (has('encoding')) page.body = Buffer.from(`${text}<p>caf\u00e9, na\u00efve, fa\u00e7ade</p>`, 'latin1');
  if (has('slow')) page.delayMs = 60 + (hash(path) % 200);
  if (has('cut') && hash(path) % 7 === 3) page.cutAt = 0.6;
  return page;
}

const ODD_PATHS = [
  '/moved.html',
  '/minutes.pdf',
  '/broken.html',
  '/loop-a',
  '/private/members.html',
  '/about.html#who',
  'mailto:editor@example.org',
];

/** Pages that every link source has and that are no pages. */
function oddPage(path: string): Page | null {
  if (path === '/loop-a') return html(302, '', { location: '/loop-b' });
  if (path === '/loop-b') return html(302, '', { location: '/loop-a' });
  if (path === '/moved.html') return html(301, '', { location: '/' });
  if (path === '/broken.html') return html(500, 'no');
  if (path === '/minutes.pdf') return { status: 200, headers: { 'content-type': 'application/pdf' }, body: '%PDF-1.4' };
  return null;
}

function extraPaths(site: SourceSite): string[] {
  const extra: string[] = [];
  if (site.manners.includes('calendar')) extra.push('/calendar/2026-12.html');
  if (site.manners.includes('mirror')) extra.push('/mirror/');
  if (site.manners.includes('soft-404')) extra.push('/gone-1.html', '/gone-2.html', '/gone-3.html');
  return extra;
}

const FACETS: Record<string, string[]> = {
  colour: ['amber', 'oat', 'plum', 'moss'],
  size: ['small', 'middle', 'large'],
  maker: ['coombe', 'tarn', 'hobb'],
  view: ['list', 'tiles'],
};

/** Every filter that can still be added to a query. */
function facetPaths(query: string): string[] {
  const set = new URLSearchParams(query);
  return Object.entries(FACETS).flatMap(([name, values]) => {
    if (set.has(name)) return [];
    return values.map((value) => `/goods/?${query ? `${query}&` : ''}${name}=${value}`);
  });
}

function shelf(domain: WorldDomain, query: string): Page {
  return html(
    200,
    layout(domain, `Goods: ${query.replaceAll('&', ', ')}`, `${prose(domain, query, 1)}${nav(facetPaths(query))}`),
  );
}

/** Markup of a question page, with its readers (schema.org). */
function asQuestion({ title, readers }: SitePage): string {
  const counter = {
    '@type': 'InteractionCounter',
    interactionType: 'https://schema.org/ViewAction',
    userInteractionCount: readers,
  };
  const likes = {
    '@type': 'InteractionCounter',
    interactionType: 'https://schema.org/LikeAction',
    userInteractionCount: 99_999,
  };
  const data = {
    '@context': 'https://schema.org',
    '@type': 'QAPage',
    mainEntity: { '@type': 'Question', name: title, interactionStatistic: [counter, likes] },
  };
  return `<script type="application/ld+json">${JSON.stringify(data)}</script>`;
}

function calendar(path: string): Page {
  const found = /(\d{4})-(\d{2})/.exec(path);
  const month = found ? +found[1] * 12 + +found[2] : 24_324;
  const at = (m: number) => `/calendar/${Math.floor((m - 1) / 12)}-${String(((m - 1) % 12) + 1).padStart(2, '0')}.html`;
  return html(
    200,
    `<!doctype html><title>Calendar</title><p>Nothing is planned.</p>${nav([at(month - 1), at(month + 1), '/'])}`,
  );
}

function prose(domain: WorldDomain, path: string, paragraphs: number): string {
  const random = new Random(`${domain.name}${path}`);
  const sentence = () => {
    const words = Array.from({ length: random.whole(7, 16) }, () => random.pick(domain.subject.words));
    return `The ${words.join(random.chance(0.3) ? ' of the ' : ' and the ').slice(0, 120)}.`;
  };
  return Array.from(
    { length: paragraphs },
    () => `<p>${Array.from({ length: random.whole(3, 6) }, sentence).join(' ')}</p>`,
  ).join('\n');
}

function list(links: WorldLink[]): string {
  if (links.length === 0) return '';
  const items = links.map((link) => {
    const rel = link.nofollow ? ' rel="nofollow"' : '';
    return `<li><a href="http://${link.to.name}${link.toPath}"${rel}>${escapeHtml(link.anchor)}</a></li>`;
  });
  return `<ul class="links">\n${items.join('\n')}\n</ul>`;
}

function nav(paths: string[]): string {
  // what a link says is the same in a mirror and in another session
  const label = (path: string) => path.replace(/^\/mirror(?=\/)/, '').replace(/;sid=\w+$/, '');
  return `<nav>${paths.map((path) => `<a href="${escapeHtml(path)}">${escapeHtml(label(path))}</a>`).join(' ')}</nav>`;
}

function layout(domain: WorldDomain, title: string, body: string, head = ''): string {
  return `<!doctype html>\n<html lang="en"><head><title>${escapeHtml(title)} - ${escapeHtml(domain.title)}</title>${head}</head><body><h1>${escapeHtml(title)}</h1>\n${body}\n</body></html>`;
}
