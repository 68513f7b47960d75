import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pathOf, wordsOfText } from './address';
import { apacheConfig, nginxConfig, RulesRefused, rulesCsv } from './export';
import { type OldAddress, type OwnPage, proposeRedirects } from './match';
import { readOwnPages } from './own-pages';
import { carried, patternsOf, problemsOf, type RedirectRule } from './rules';

const old = (path: string, more: Partial<OldAddress> = {}): OldAddress => ({
  path,
  anchors: [],
  title: null,
  weight: 1,
  domains: 1,
  ...more,
});
const page = (path: string, title = '', text = ''): OwnPage => ({
  url: `https://beesofthevale.org${path}`,
  title,
  text,
});
const PAGES = [
  page('/guide/winter-feeding', 'Feeding bees in winter'),
  page('/guide/swarms', 'How to catch a swarm'),
  page('/hives/plans', 'Plans for building a hive'),
  page('/about', 'About the guide'),
];
const best = (address: OldAddress) => proposeRedirects([address], PAGES)[0].candidates[0];

describe('words', () => {
  it('are those of addresses, escapes and all, in one number', () => {
    expect(wordsOfText('/Hive-Plans/2019/index.html')).toEqual(['hive', 'plan', '2019']);
    expect(wordsOfText('/caf%C3%A9s/the%20bees')).toEqual(['cafe', 'bee']);
    expect(wordsOfText('/%ZZ/broken')).toEqual(['zz', 'broken']);
    expect(pathOf('http://old.org/a/b?c=1#d')).toBe('/a/b?c=1');
    expect(pathOf('old.org')).toBe('/');
    expect(pathOf('http://valearchive.net/web/20190606211307/http://old.org/a?b=1')).toBe('/a?b=1');
    expect(pathOf('http://old.org/go?to=http://x.org/')).toBe('/go?to=http://x.org/');
  });
});

describe('proposals', () => {
  it('are found by the subject where words alone would not do, and say so', () => {
    const pages = [
      { ...page('/a1', 'Keeping a skep'), subject: 'Beekeeping' },
      { ...page('/a2', 'Setting lead type'), subject: 'Printing' },
      { ...page('/a3', 'Lead lights'), subject: 'Glass' },
    ];
    const [{ candidates }] = proposeRedirects(
      [old('/x.html', { anchors: ['our bees'], subject: 'Beekeeping' })],
      pages,
    );
    expect(candidates).toMatchObject([
      { url: 'https://beesofthevale.org/a1', reasons: [{ word: 'Beekeeping', where: 'subject' }] },
    ]);
    expect(proposeRedirects([old('/x.html', { anchors: ['our bees'] })], pages)[0].candidates).toEqual([]);
    // of two that share a word, the one of the same subject comes first
    const [{ candidates: lead }] = proposeRedirects([old('/lead.html', { subject: 'Printing' })], pages);
    expect(lead[0].url).toBe('https://beesofthevale.org/a2');
  });

  it('are found by the words of address, anchors and title, with which decided', () => {
    expect(best(old('/swarming.php', { anchors: ['catching a swarm'] }))).toMatchObject({
      url: 'https://beesofthevale.org/guide/swarms',
      reasons: expect.arrayContaining([{ word: 'swarm', where: 'anchors' }]),
    });
    expect(best(old('/p?id=7', { title: 'Plans of a hive' }))?.url).toContain('/hives/plans');
  });

  it('are none where nothing is alike: better gone than sent to the home page', () => {
    expect(best(old('/casino-bonus', { anchors: ['free spins'] }))).toBeUndefined();
  });

  it('take the same path for the same page, whatever it ends with', () => {
    expect(best(old('/Guide/Swarms.html'))).toMatchObject({ url: 'https://beesofthevale.org/guide/swarms' });
    expect(best(old('/Guide/Swarms.html')).confidence).toBeGreaterThanOrEqual(0.9);
  });

  it('have confidences between nothing and certainty, the best first', () => {
    const word = fc.constantFrom('bee', 'hive', 'winter', 'plan', 'swarm', 'queen', 'x9');
    const text = fc.array(word, { minLength: 1, maxLength: 4 }).map((words) => words.join('-'));
    fc.assert(
      fc.property(fc.array(text, { minLength: 1, maxLength: 8 }), fc.array(text, { maxLength: 8 }), (paths, own) => {
        const found = proposeRedirects(
          paths.map((path) => old(`/${path}`)),
          own.map((path) => page(`/${path}`)),
        );
        expect(found).toHaveLength(paths.length);
        for (const { candidates } of found) {
          const all = candidates.map(({ confidence }) => confidence);
          expect(all).toEqual([...all].sort((a, b) => b - a));
          for (const one of all) expect(one >= 0.18 && one <= 1).toBe(true);
        }
      }),
    );
  });
});

describe('patterns', () => {
  it('are moves that many share', () => {
    const names = ['winter-feeding', 'swarms', 'queens', 'mites'];
    const own = names.map((name) => page(`/guide/${name}`));
    const proposals = proposeRedirects([...names.map((name) => old(`/blog/2012/${name}`)), old('/contact')], own);
    expect(patternsOf(proposals)).toEqual([
      {
        fromPrefix: '/blog/2012/',
        toPrefix: 'https://beesofthevale.org/guide/',
        paths: names.map((name) => `/blog/2012/${name}`),
      },
    ]);
  });
});

describe('rules', () => {
  const to = (path: string) => `https://oldclub.org${path}`;
  it('that lead in a circle, through each other, or two ways are told, and not written', () => {
    const rules: RedirectRule[] = [
      { from: '/a', to: to('/b') },
      { from: '/b', to: 'https://www.oldclub.org/a' },
      { from: '/c', to: to('/d') },
      { from: '/d', to: 'https://beesofthevale.org/' },
      { from: '/e', to: null },
      { from: '/e', to: 'https://beesofthevale.org/' },
      { from: 'no slash', to: null },
    ];
    const problems = problemsOf(rules, 'oldclub.org');
    expect(problems).toEqual(
      expect.arrayContaining([
        { kind: 'loop', from: '/a', by: ['/a', '/b'] },
        { kind: 'chain', from: '/c', to: '/d' },
        { kind: 'collision', from: '/e', to: [null, 'https://beesofthevale.org/'] },
        { kind: 'no address', from: 'no slash' },
      ]),
    );
    for (const write of [rulesCsv, nginxConfig]) expect(() => write(rules, 'oldclub.org')).toThrow(RulesRefused);
    expect(() => apacheConfig(rules, 'oldclub.org', '/m')).toThrow(RulesRefused);
  });

  it('that have no problem are followed in one step by whoever asks', () => {
    const path = fc.constantFrom('/a', '/b', '/c', '/d');
    const target = fc.option(
      fc.oneof(
        path.map(to),
        path.map((one) => `https://beesofthevale.org${one}`),
      ),
    );
    fc.assert(
      fc.property(fc.array(fc.record({ from: path, to: target }), { maxLength: 5 }), (rules) => {
        if (problemsOf(rules, 'oldclub.org').length > 0) return;
        for (const rule of rules) {
          if (rule.to === null) continue;
          const url = new URL(rule.to);
          if (url.hostname === 'oldclub.org') expect(rules.some(({ from }) => from === url.pathname)).toBe(false);
        }
      }),
    );
  });

  it('say how much of the weight they carry, and how relevantly', () => {
    const proposals = proposeRedirects([old('/guide/swarms', { weight: 6 }), old('/casino', { weight: 2 })], PAGES);
    const sure = proposals[0].candidates[0];
    const result = carried(
      [
        { from: '/guide/swarms', to: sure.url },
        { from: '/casino', to: null },
      ],
      proposals,
    );
    expect(result).toEqual({ all: 8, moved: 6, relevant: 6 * sure.confidence });
  });

  it('leave as CSV with what moves and what is gone', () => {
    expect(
      rulesCsv(
        [
          { from: '/b,c', to: 'https://x.org/"q"' },
          { from: '/a', to: null },
        ],
        'oldclub.org',
      ),
    ).toBe('from,to,status\r\n/a,,410\r\n"/b,c","https://x.org/""q""",301\r\n');
  });
});

describe('own pages', () => {
  it('come from a sitemap, an index of sitemaps, a table or lines', () => {
    const sitemap =
      '<?xml version="1.0"?><urlset><url><loc>https://a.org/x?a=1&amp;b=2</loc></url><url><loc>nonsense</loc></url></urlset>';
    expect(readOwnPages(sitemap)).toMatchObject({ pages: [{ url: 'https://a.org/x?a=1&b=2' }], aside: 1 });
    expect(
      readOwnPages('<sitemapindex><sitemap><loc>https://a.org/s1.xml</loc></sitemap></sitemapindex>'),
    ).toMatchObject({
      indexes: ['https://a.org/s1.xml'],
    });
    expect(readOwnPages('url,title\nhttps://a.org/,"Home, sweet"\nno,x\n')).toMatchObject({
      pages: [{ url: 'https://a.org/', title: 'Home, sweet' }],
      aside: 1,
    });
    expect(readOwnPages('https://a.org/1\nrubbish\n\nhttps://a.org/2')).toMatchObject({ aside: 1, pages: [{}, {}] });
    expect(readOwnPages('hello').problem).toBe('No line is an address.');
  });
});
