import { Random } from './random';
import { OPENERS, type Subject } from './words';

/** How a site misbehaves, on purpose. */
export type Manner =
  | 'challenge' // answers 200 to everything, with the same few words
  | 'consent' // answers every page with a consent wall
  | 'calendar' // has a page for every month there ever will be
  | 'deeper' // links relative to themselves, so that paths grow without end
  | 'facets' // filters that combine without end
  | 'soft-404' // answers 200 with a "not found" page to any address
  | 'mirror' // has all its pages twice
  | 'sessions' // puts a new session id into every link
  | 'encoding' // says UTF-8 and sends windows-1252
  | 'slow'
  | 'limited' // 429 with Retry-After when asked too fast
  | 'moody' // 503 the first time a page is asked for
  | 'cut' // breaks the connection in the middle of some pages
  | 'forbidding' // robots.txt leaves almost nothing
  | 'noindex'; // keeps its articles out of search engines

export type Layout = 'sections' | 'journal' | 'library' | 'club' | 'directory' | 'shop' | 'answers';

export interface SitePage {
  path: string;
  title: string;
  kind: 'home' | 'index' | 'article' | 'old' | 'list';
  /** Paths of pages of the same site that it links to. */
  inside: string[];
  /** Readers that its markup claims. */
  readers?: number;
}

/** A link source: its pages, and how it behaves. */
export interface SourceSite {
  name: string;
  title: string;
  subject: string;
  layout: Layout;
  manners: Manner[];
  /** Part of its outside links that lead to names with a fate; 0: it only knows the living. */
  fateShare: number;
}

const slug = (text: string) => text.toLowerCase().replace(/[^a-z]+/g, '-');

/** The pages of a site, by path. Deterministic for site and seed. */
export function pagesOfSite(
  site: SourceSite,
  subject: Subject,
  seed: number,
  others: Subject[] = [],
): Map<string, SitePage> {
  const random = new Random(`${seed} ${site.name}`);
  const pages = new Map<string, SitePage>();
  const add = (path: string, title: string, kind: SitePage['kind'], inside: string[] = []): SitePage => {
    const page = { path, title, kind, inside: [...inside] };
    pages.set(path, page);
    return page;
  };
  // an all-purpose paper writes about anything now and then
  const headline = () => {
    const about = others.length > 0 && random.chance(0.2) ? random.pick(others) : subject;
    return `${random.pick(OPENERS)} the ${random.pick(about.words)}`;
  };
  const home = add('/', site.title, 'home');
  LAYOUTS[site.layout]({ site, subject, random, add, headline, home });
  // every page knows the way home, and articles their neighbours
  let before: SitePage | null = null;
  for (const page of pages.values()) {
    if (page.path !== '/') page.inside.push('/');
    if (page.kind === 'article' || page.kind === 'old') {
      if (before && random.chance(0.6)) page.inside.push(before.path);
      before = page;
    }
  }
  return pages;
}

interface Plan {
  site: SourceSite;
  subject: Subject;
  random: Random;
  add(path: string, title: string, kind: SitePage['kind'], inside?: string[]): SitePage;
  headline(): string;
  home: SitePage;
}

const LAYOUTS: Record<Layout, (plan: Plan) => void> = {
  /** Sections of articles, every ninth page a list of links. */
  sections({ add, headline, home }) {
    for (let section = 0; section < 4; section++) {
      const index = add(`/section/${section}.html`, `Section ${section}`, 'index');
      home.inside.push(index.path);
      for (let i = 0; i < 24; i++) {
        const page = section * 24 + i;
        const isList = page % 9 === 4;
        const made = add(
          isList ? `/links/${page}.html` : `/articles/${page}.html`,
          isList ? `Useful links ${page}` : headline(),
          isList ? 'list' : 'article',
        );
        index.inside.push(made.path);
      }
    }
    home.inside.push(add('/friends.html', 'Friends', 'list').path);
  },

  /** A journal by years; its old entries hold the links that lapsed. */
  journal({ add, headline, home, random }) {
    const archive = add('/archive/', 'Archive', 'index');
    home.inside.push(
      archive.path,
      add('/blogroll.html', 'Blogroll', 'list').path,
      add('/about.html', 'About', 'article').path,
    );
    for (let year = 2008; year <= 2026; year++) {
      const index = add(`/${year}/`, `The year ${year}`, 'index');
      archive.inside.push(index.path);
      for (let i = 0, count = random.whole(5, 10); i < count; i++) {
        const month = String(random.whole(1, 12)).padStart(2, '0');
        const title = headline();
        const isList = year < 2016 && i === 0;
        const path = isList
          ? `/${year}/${month}/links-of-the-season.html`
          : `/${year}/${month}/${slug(title)}-${i}.html`;
        index.inside.push(
          add(path, isList ? `Links of the season, ${year}` : title, isList ? 'list' : year < 2019 ? 'old' : 'article')
            .path,
        );
      }
    }
  },

  /** Topics with pages, and a list of resources for each. */
  library({ add, headline, home, subject, random }) {
    const topics = subject.words.slice(0, 12);
    for (const topic of topics) {
      const index = add(`/topics/${topic}/`, `On the ${topic}`, 'index');
      home.inside.push(index.path);
      for (let page = 1; page <= 9; page++)
        index.inside.push(add(`/topics/${topic}/page-${page}.html`, headline(), 'article').path);
      if (random.chance(0.75)) index.inside.push(add(`/resources/${topic}.html`, `Resources: ${topic}`, 'list').path);
    }
    home.inside.push(add('/help.html', 'Help', 'article').path);
  },

  /** A club: news, members, and a page of friends that nobody has tidied for years. */
  club({ add, headline, home, random }) {
    const news = add('/news/', 'News', 'index');
    const members = add('/members/', 'Members', 'index');
    home.inside.push(
      news.path,
      members.path,
      add('/links.html', 'Links', 'list').path,
      add('/contact.html', 'Contact', 'article').path,
    );
    for (let i = 1; i <= 64; i++) news.inside.push(add(`/news/${i}.html`, headline(), i < 22 ? 'old' : 'article').path);
    for (let i = 1; i <= 30; i++) members.inside.push(add(`/members/${i}.html`, `Member ${i}`, 'article').path);
    const old = add('/links/old.html', 'Older links', 'list');
    const friends = add('/links/friends.html', 'Friends of ours', 'list');
    const more = add(`/links/${random.pick(['suppliers', 'neighbours', 'reading'])}.html`, 'More links', 'list');
    for (const list of [old, friends, more]) home.inside.push(list.path);
  },

  /** A directory: rubrics, rubrics within, and lists at the end. */
  directory({ add, headline, home, subject, random }) {
    const rubrics = subject.words.slice(0, 8);
    for (const rubric of rubrics) {
      const top = add(`/directory/${rubric}/`, `Directory: ${rubric}`, 'index');
      home.inside.push(top.path);
      for (let i = 0; i < 5; i++)
        top.inside.push(
          add(
            `/directory/${rubric}/${random.pick(subject.names)}-${i}/`,
            `Directory: ${rubric}, part ${i}`,
            random.chance(0.6) ? 'list' : 'index',
          ).path,
        );
    }
    const notes = add('/notes/', 'Notes', 'index');
    home.inside.push(notes.path);
    for (let i = 1; i <= 60; i++) notes.inside.push(add(`/notes/${i}.html`, headline(), 'article').path);
  },

  /** Goods without an outside link, and suppliers with many. */
  shop({ add, home, subject, random }) {
    const goods = add('/goods/', 'Goods', 'index');
    home.inside.push(
      goods.path,
      add('/suppliers.html', 'Our suppliers', 'list').path,
      add('/terms.html', 'Terms', 'article').path,
    );
    for (let i = 1; i <= 110; i++)
      goods.inside.push(
        add(`/goods/${slug(random.pick(subject.words))}-${i}.html`, `A ${random.pick(subject.words)}`, 'article').path,
      );
  },

  /** Questions with answers, each with its readers. */
  answers({ add, home, subject, random }) {
    for (let part = 0; part < 5; part++) {
      const index = add(`/questions/page-${part}.html`, `Questions, part ${part}`, 'index');
      home.inside.push(index.path);
      for (let i = 0; i < 26; i++) {
        const word = random.pick(subject.words);
        const page = add(
          `/q/${part * 26 + i}/${slug(word)}`,
          `How do I keep the ${word}?`,
          random.chance(0.5) ? 'old' : 'article',
        );
        page.readers = 20 * random.tail(4000);
        index.inside.push(page.path);
      }
    }
  },
};
