import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { outlinePage } from '../history/outline';
import { COMMON_STEPS, checklistOf, progressOf } from './checklist';
import { rebuildMarkdown } from './markdown';
import { siteOutline } from './outline';
import { carryingSubjects, type OldPage, planPages } from './plan';

const page = (path: string, given: Partial<OldPage> = {}): OldPage => ({
  path,
  anchors: [],
  title: null,
  weight: 0,
  domains: 0,
  readers: 0,
  ...given,
});
const phrase = (words: string, keptVisits = 10) => ({
  phrase: words,
  isOwnName: false,
  position: 3,
  searches: 100,
  clickMinor: 40,
  competition: null,
  visits: keptVisits * 2,
  keptVisits,
  monthMinor: keptVisits * 40,
});

describe('which pages to bring back', () => {
  it('ranks by referrers, phrases and readers, each phrase given to the page that is like it', () => {
    const old = [
      page('/swarm-control.html', { title: 'Swarm control in May', weight: 1 }),
      page('/queen-rearing.html', { title: 'Queen rearing', anchors: ['raising queens'], weight: 6, readers: 900 }),
      page('/contact.html', { weight: 1, readers: 100 }),
    ];
    const plan = planPages(old, [
      phrase('when do bees swarm', 30),
      phrase('queen rearing calendar', 10),
      phrase('zeppelin'),
    ]);
    expect(plan.measures).toEqual(['links', 'visits', 'readers']);
    expect(plan.unplaced.map((one) => one.phrase)).toEqual(['zeppelin']);
    const [best, second] = plan.pages;
    expect(best).toMatchObject({ path: '/queen-rearing.html', visits: 10 });
    expect(best.share).toBeCloseTo((6 / 8 + 10 / 40 + 0.9) / 3);
    expect(second).toMatchObject({ path: '/swarm-control.html', visits: 30 });
  });

  it('counts only what is known: without phrases and readers, links alone', () => {
    const plan = planPages([page('/a', { weight: 3 }), page('/b', { weight: 1 })], []);
    expect(plan.measures).toEqual(['links']);
    expect(plan.pages.map(({ share }) => share)).toEqual([0.75, 0.25]);
    expect(planPages([page('/a')], []).pages[0]).toMatchObject({ share: 0, isSuggested: false });
    expect(planPages([], [phrase('anything')]).unplaced).toHaveLength(1);
  });

  it('suggests the fewest pages that carry four fifths, and none that carries next to nothing', () => {
    const weights = fc.array(fc.integer({ min: 0, max: 1000 }), { minLength: 1, maxLength: 60 });
    fc.assert(
      fc.property(weights, (list) => {
        const { pages } = planPages(
          list.map((weight, n) => page(`/${n}`, { weight })),
          [],
        );
        const all = list.reduce((sum, weight) => sum + weight, 0);
        const sum = pages.reduce((total, { share }) => total + share, 0);
        expect(sum).toBeCloseTo(all === 0 ? 0 : 1);
        const suggested = pages.filter(({ isSuggested }) => isSuggested);
        // they are the first ones, and all but the last of them fall short
        expect(pages.slice(0, suggested.length).every(({ isSuggested }) => isSuggested)).toBe(true);
        expect(suggested.slice(0, -1).reduce((total, { share }) => total + share, 0)).toBeLessThan(0.8);
        for (const { share } of suggested) expect(share).toBeGreaterThanOrEqual(0.01);
      }),
    );
  });

  it('says which subjects carried it, by the weight of the links', () => {
    const tell = (text: string) => (text.includes('queen') ? 'bees' : text.includes('casino') ? 'gambling' : null);
    const old = [
      page('/queens', { anchors: ['queen rearing'], weight: 6 }),
      page('/x1', { title: 'casino night', weight: 1 }),
      page('/y', { weight: 3 }),
      page('/unlinked', { title: 'casino' }),
    ];
    expect(carryingSubjects(old, tell)).toEqual([
      { subject: 'bees', share: 0.6, paths: ['/queens'] },
      { subject: 'gambling', share: 0.1, paths: ['/x1'] },
      { subject: null, share: 0.3, paths: ['/y'] },
    ]);
  });
});

describe('the outline of a site', () => {
  it('has what led to its parts, and its headings with how much stood below them', () => {
    const html = `<ul><li><a href=/swarms>Swarms</a><li><a href=/shop>Shop</a><li><a href=//x>umberleymaps.org</a></ul><h1>Ossenmere bees</h1><p>We keep bees.
      <h2>Meetings</h2><p>Every first Monday at eight.<p>Guests are welcome.`;
    expect(siteOutline(7, 'Bees', outlinePage(html))).toEqual({
      at: 7,
      title: 'Bees',
      parts: ['Swarms', 'Shop'],
      headings: [
        { level: 1, text: 'Ossenmere bees', words: 3 },
        { level: 2, text: 'Meetings', words: 8 },
      ],
    });
  });

  it('takes sentences for no parts, and ends somewhere', () => {
    const html = `${'<li>A whole sentence that goes on for longer than any label does, on and on.'.repeat(3)}${Array.from({ length: 99 }, (_, n) => `<h2>h${n}</h2><li>part ${n}`).join('')}`;
    const { parts, headings } = siteOutline(0, '', outlinePage(html));
    expect(parts[0]).toBe('part 0');
    expect(parts).toHaveLength(24);
    expect(headings).toHaveLength(40);
  });
});

describe('the checklist', () => {
  const pages = [
    { path: '/queens', title: 'Queens', isSuggested: true },
    { path: '/old', title: null, isSuggested: false },
  ];

  it('has common steps and the pages that come back, until somebody decides otherwise', () => {
    const steps = checklistOf(pages, []);
    expect(steps).toHaveLength(Object.keys(COMMON_STEPS).length + 1);
    expect(steps.find(({ key }) => key === 'page:/queens')).toMatchObject({
      words: 'Write /queens again (“Queens”)',
      at: null,
    });
    const decided = checklistOf(pages, [
      { key: 'page:/queens', state: 'left', words: null, at: 1 },
      { key: 'page:/old', state: 'done', words: null, at: 2 },
      { key: 'own:b', state: 'wanted', words: 'Ask the club', at: 3 },
    ]);
    expect(decided.map(({ key }) => key)).not.toContain('page:/queens');
    expect(decided.find(({ key }) => key === 'page:/old')).toMatchObject({ state: 'done', at: 2 });
    expect(decided.at(-1)).toMatchObject({ words: 'Ask the club' });
    expect(progressOf(decided)).toEqual({ done: 1, all: decided.length });
  });
});

describe('the plan as Markdown', () => {
  it('ticks what is done, and keeps what is foreign from being read as signs', () => {
    const plan = planPages([page('/a|`b', { weight: 2, domains: 2, title: '<script>*x*' })], []);
    const steps = checklistOf(plan.pages, [{ key: 'step:owner', state: 'done', words: null, at: 1 }]);
    const outline = {
      at: 0,
      title: 'Bees\n# not a heading',
      parts: ['[x](http://y)'],
      headings: [{ level: 2, text: 'A', words: 4 }],
    };
    const subjects = [{ subject: 'bees', title: 'Bees', share: 1, paths: ['/a'] }];
    const text = rebuildMarkdown({ name: 'umberleybees.org', at: 0, plan, subjects, outline, steps });
    expect(text).toContain('- [x] Move the registration');
    expect(text).toContain('| `/a%7C%60b` | 100% | 2 | 0 | 0 | yes |');
    expect(text).toContain('\\<script\\>\\*x\\*');
    expect(text).toContain('“Bees \\# not a heading”');
    expect(text).toContain('\\[x\\](http://y)');
    expect(text).toContain('  - A (4 words)');
    expect(text.split('\n').filter((line) => /^#+ /.test(line))).toHaveLength(5);
  });
});
