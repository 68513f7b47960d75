import { hash, Random } from './random';
import { FOREIGN_LANGUAGES, foreignText, HONEST_THEMES, type Theme, themeOf, themeText, worldTheme } from './themes';
import type { Span, WorldDomain } from './world';

/** What a site showed at a time of its span. */
interface Scene {
  theme: Theme | null;
  language: string | null;
  title: string;
}

const WORDS = 150;

/** Domain that a name sent its visitors to in a span; null: none. */
export function redirectOf(span: Span): string | null {
  return span.use === 'forward' ? (span.forwardTo ?? null) : null;
}

/** A page as an archive kept it. */
export function archivedPage(domain: WorldDomain, span: Span, at: number): string {
  const random = new Random(`archived ${domain.name} ${new Date(at).getUTCFullYear()}`);
  if (span.use === 'parked')
    return page(
      domain.name,
      hash(domain.name) % 3 === 0 ? 'This domain is for sale. Buy this domain.' : 'This name is parked.',
    );
  if (span.use === 'casino')
    return page(
      'Best bonus',
      themeText(themeOf('games.gambling'), random, WORDS, 0.02),
      links(['slotharbour.com', 'pokermoor.net']),
    );
  const { theme, language, title } = sceneOf(domain, span, at);
  if (language) return page(title, foreignText(language, random, 8));
  const text = themeText(theme ?? worldTheme(domain.subject.id, domain.name), random, WORDS);
  const around = [`${random.pick(['coombe', 'tarn', 'hobb', 'lode'])}${domain.subject.id}.org`, 'merrowmaps.com'];
  return page(title, text, links(around));
}

/** Most sites stay what they are; some change their language, and some their subject, in the later part of their time. */
function sceneOf(domain: WorldDomain, span: Span, at: number): Scene {
  const theme = worldTheme(domain.subject.id, domain.name);
  const same: Scene = { theme, language: null, title: domain.title };
  if (domain.role === 'source' || domain.role === 'hub' || span.use !== 'site') return same;
  const end = span.until ?? span.from + 20 * 365 * 86_400_000;
  const isLate = at > span.from + 0.6 * (end - span.from);
  if (domain.story?.startsWith('changed its language'))
    return isLate ? { theme: null, language: 'de', title: 'Angebote' } : same;
  if (domain.story || !isLate) return same;
  const draw = hash(`scene ${domain.name}`) % 100;
  if (draw < 5)
    return { theme: null, language: FOREIGN_LANGUAGES[draw % FOREIGN_LANGUAGES.length], title: domain.name };
  if (draw < 12) {
    const other = HONEST_THEMES[hash(`other ${domain.name}`) % HONEST_THEMES.length];
    return { theme: other, language: null, title: `New at ${domain.title}` };
  }
  return same;
}

const links = (names: string[]) => names.map((name) => `<a href="http://${name}/">${name}</a>`).join(' ');

function page(title: string, text: string, after = ''): string {
  return `<!doctype html>\n<html><head><title>${title}</title></head><body><h1>${title}</h1>\n<p>${text}</p>\n${after}</body></html>`;
}
