import { Random } from './random';
import { OPENERS } from './words';
import {
  isLinkList,
  PAGES_PER_SOURCE,
  pagePath,
  type Span,
  stateAt,
  type World,
  type WorldDomain,
  type WorldLink,
} from './world';

export interface Page {
  status: number;
  headers: Record<string, string>;
  body: string | Buffer;
}

const PER_SECTION = 24;
const SECTIONS = Math.ceil(PAGES_PER_SOURCE / PER_SECTION);
/** Answers 200 to everything, with the same few words. */
export const CHALLENGE_SITE = 'umberleymarket.com';
/** Has a page for every month there ever will be. */
export const CALENDAR_SITE = 'tallowendcalendar.org';
/** Says UTF-8 and sends windows-1252. */
export const ENCODING_SITE = 'brindlefellbookcraft.net';

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
  if (path === '/robots.txt') return robots(domain);
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

function robots(domain: WorldDomain): Page {
  const rules = domain.role === 'source' ? 'User-agent: *\nDisallow: /private/\n' : 'User-agent: *\nDisallow:\n';
  return { status: 200, headers: { 'content-type': 'text/plain' }, body: rules };
}

function sitePage(world: World, domain: WorldDomain, path: string): Page {
  if (domain.name === CHALLENGE_SITE)
    return html(200, '<!doctype html><title>One moment</title><p>Checking that you are a person. Enable scripts.</p>');
  if (domain.name === CALENDAR_SITE && path.startsWith('/calendar/')) return calendar(path);
  if (domain.role === 'source') return sourcePage(world, domain, path);
  const links = world.byPage.get(`${domain.name} ${path}`);
  if (path !== '/' && !links) return html(404, '<!doctype html><title>Not here</title><p>No such page.</p>');
  const others = path === '/' ? pagesOf(world, domain) : ['/'];
  return html(200, layout(domain, domain.title, `${prose(domain, path, 2)}${list(links ?? [])}${nav(others)}`));
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

function sourcePage(world: World, domain: WorldDomain, path: string): Page {
  if (path === '/loop-a') return html(302, '', { location: '/loop-b' });
  if (path === '/loop-b') return html(302, '', { location: '/loop-a' });
  if (path === '/moved.html') return html(301, '', { location: '/friends.html' });
  if (path === '/broken.html') return html(500, 'no');
  if (path === '/minutes.pdf') return { status: 200, headers: { 'content-type': 'application/pdf' }, body: '%PDF-1.4' };
  const links = world.byPage.get(`${domain.name} ${path}`) ?? [];
  if (path === '/') {
    const sections = Array.from({ length: SECTIONS }, (_, i) => `/section/${i}.html`);
    const extra = [
      '/friends.html',
      '/moved.html',
      '/minutes.pdf',
      '/broken.html',
      '/loop-a',
      '/private/members.html',
      '/about.html#who',
      'mailto:editor@example.org',
    ];
    if (domain.name === CALENDAR_SITE) extra.push('/calendar/2026-12.html');
    return html(200, layout(domain, domain.title, prose(domain, path, 3) + list(links) + nav([...sections, ...extra])));
  }
  if (path === '/friends.html' || path === '/about.html')
    return html(200, layout(domain, 'Friends', list(links) + nav(['/'])));
  const section = /^\/section\/(\d+)\.html$/.exec(path);
  if (section && +section[1] < SECTIONS) {
    const pages = Array.from({ length: PER_SECTION }, (_, i) => +section[1] * PER_SECTION + i).filter(
      (page) => page < PAGES_PER_SOURCE,
    );
    return html(200, layout(domain, `Section ${section[1]}`, nav([...pages.map(pagePath), '/'])));
  }
  const article = /^\/(?:articles|links)\/(\d+)\.html$/.exec(path);
  if (!article || pagePath(+article[1]) !== path || +article[1] >= PAGES_PER_SOURCE)
    return html(404, '<!doctype html><title>Not here</title><p>No such page.</p>');
  const page = +article[1];
  const title = isLinkList(page) ? `Useful links ${page}` : titleOf(domain, page);
  const near = [pagePath(Math.max(1, page - 1)), pagePath(Math.min(PAGES_PER_SOURCE - 1, page + 1)), '/'];
  const text = layout(domain, title, prose(domain, path, isLinkList(page) ? 1 : 5) + list(links) + nav(near));
  if (domain.name === ENCODING_SITE)
    return {
      status: 200,
      headers: { 'content-type': 'text/html; charset=utf-8' },
      body: Buffer.from(`${text}<p>café, naïve, façade</p>`, 'latin1'),
    };
  return html(200, text);
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

export function titleOf(domain: WorldDomain, page: number): string {
  const random = new Random(`${domain.name} ${page}`);
  return `${random.pick(OPENERS)} the ${random.pick(domain.subject.words)}`;
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
  return `<nav>${paths.map((path) => `<a href="${path}">${escapeHtml(path)}</a>`).join(' ')}</nav>`;
}

function layout(domain: WorldDomain, title: string, body: string): string {
  return `<!doctype html>\n<html lang="en"><head><title>${escapeHtml(title)} - ${escapeHtml(domain.title)}</title></head><body><h1>${escapeHtml(title)}</h1>\n${body}\n</body></html>`;
}

/** A page as an archive kept it. */
export function archivedPage(domain: WorldDomain, span: Span): string {
  if (span.use === 'site') return layout(domain, domain.title, prose(domain, '/', 3));
  if (span.use === 'casino') return '<!doctype html><title>Best bonus</title><p>Play slots and poker.</p>';
  return `<!doctype html><title>${domain.name}</title><p>This name is parked.</p>`;
}
