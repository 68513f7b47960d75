import { describe, expect, it } from 'vitest';
import { compareFacts, type FactSpec } from './compare';
import { DILIGENCE_KEYS, type DiligenceFacts, type DiligenceItem, diligenceOf, diligenceTally } from './diligence';

const NOW = Date.parse('2026-11-20T12:00:00Z');
const NOTHING: DiligenceFacts = {
  now: NOW, phase: 'unknown', phaseAt: null, registrarSaid: null, recordAt: null, registeredAt: null, drops: null,
  capturesAt: null, contentYears: null, drift: null, languageSwitches: null, subjectSwitches: null, effective: null,
  referringDomains: null, linksAt: null, referrersAt: null, looked: 0, gone: 0, networkSites: 0, anchors: {},
  forwardsTo: null, frontAt: null, spamRisk: null, spamAt: null, judged: null, judgedAt: null, wordMarks: null,
  marksAt: null, markVerdict: null, markVerdictAt: null, foundPages: {},
}; // biome-ignore format: a list
const point = (item: DiligenceItem, facts: Partial<DiligenceFacts>) => {
  const found = diligenceOf({ ...NOTHING, ...facts }, []).find((one) => one.item === item);
  return `${found?.state}: ${found?.answer}`;
};

describe('due diligence', () => {
  it('is open at every point where nothing is known, and claims no date', () => {
    const points = diligenceOf(NOTHING, []);
    expect(points.map(({ item }) => item)).toEqual(DILIGENCE_KEYS);
    for (const { state, at, by } of points) expect({ state, at, by }).toEqual({ state: 'open', at: null, by: null });
    expect(diligenceTally(points)).toEqual({ all: 17, answered: 0, look: 0, bad: 0 });
  });

  it.each<[DiligenceItem, Partial<DiligenceFacts>, string]>([
    ['available', { phase: 'free', phaseAt: NOW }, 'look: available by registration data; no registrar was asked'],
    [
      'available',
      { phase: 'free', phaseAt: NOW, registrarSaid: 'can be registered' },
      'fine: available, can be registered',
    ],
    [
      'available',
      { phase: 'free', phaseAt: NOW - 2 * 86_400_000, registrarSaid: 'can be registered' },
      'look: available, can be registered; ask again',
    ],
    ['available', { phase: 'active', phaseAt: NOW }, 'bad: registered'],
    ['available', { phase: 'not-registrable', phaseAt: NOW }, 'bad: cannot be registered'],
    ['available', { phase: 'pending-delete', phaseAt: NOW }, 'look: not yet: pending delete'],
    ['record', { recordAt: NOW, registeredAt: 0, drops: 0 }, 'fine: since 1970-01-01, one owner as far as it shows'],
    ['record', { recordAt: NOW, registeredAt: 0, drops: 2 }, 'look: since 1970-01-01; changed hands 2 times'],
    ['marks', { wordMarks: 0, marksAt: NOW }, 'fine: none is like it'],
    ['marks', { wordMarks: 1, marksAt: NOW }, 'look: 1 mark is like it; look at them'],
    ['marks', { wordMarks: 3, marksAt: NOW, markVerdict: 'clear', markVerdictAt: NOW }, 'fine: clear by your look'],
    ['marks', { wordMarks: 0, marksAt: NOW, markVerdict: 'conflict' }, 'bad: in conflict by your look'],
    ['past', { contentYears: 0 }, 'bad: no content was captured'],
    ['past', { contentYears: 12.5 }, 'fine: 12.5 years with content'],
    ['continuity', { drift: 0.1, languageSwitches: 0, subjectSwitches: 0 }, 'fine: topic change 0.10'],
    [
      'continuity',
      { drift: 0.1, languageSwitches: 1, subjectSwitches: 0 },
      'bad: changed its language 1 time; topic change 0.10',
    ],
    [
      'continuity',
      { drift: 0.95, languageSwitches: 0, subjectSwitches: 1 },
      'bad: changed its subject 1 time; topic change 0.95',
    ],
    [
      'searched',
      { foundPages: { searched: { at: NOW, who: 'Salt', total: 31, pages: [] } } },
      'fine: 31 pages of it still shown, says Salt',
    ],
    [
      'listed',
      { foundPages: { listed: { at: NOW, who: 'Salt', total: 0, pages: [] } } },
      'look: listed nowhere, says Salt',
    ],
    [
      'mentioned',
      {
        foundPages: { mentioned: { at: NOW, who: 'Salt', total: null, pages: [{ url: 'http://a.org/', title: '' }] } },
      },
      'fine: mentioned on 1 page of others, says Salt',
    ],
    ['referrers', { referringDomains: 900, effective: 3 }, 'look: 3 of 900 count'],
    ['referrers', { referringDomains: 80, effective: 70 }, 'fine: 70 of 80 count'],
    ['referrers', { referringDomains: 5, effective: 0.5 }, 'bad: 0.5 of 5 count'],
    ['standing', { referrersAt: NOW, looked: 10, gone: 1 }, 'fine: 1 of 10 that were looked at are gone'],
    ['standing', { referrersAt: NOW, looked: 10, gone: 9 }, 'bad: 9 of 10 that were looked at are gone'],
    ['standing', { referrersAt: NOW, looked: 0 }, 'look: no linking page could be looked at'],
    [
      'network',
      { referrersAt: NOW, networkSites: 45, referringDomains: 48 },
      "bad: 45 referring domains are one owner's",
    ],
    ['network', { referrersAt: NOW, networkSites: 2, referringDomains: 48 }, 'fine: no owner stands out'],
    ['anchors', { anchors: { name: 10, money: 8, 'other-script': 2 } }, 'bad: 50% sell, or are in another script'],
    ['anchors', { anchors: { name: 10 } }, 'fine: none sells, none in another script'],
    ['forwarding', { forwardsTo: 'tarnshop.example' }, 'bad: forwards to tarnshop.example'],
    ['forwarding', { frontAt: NOW }, 'fine: it forwards nowhere'],
    ['spam', { spamRisk: 80 }, 'bad: risk 80 of 100; from 50 on it is called spam'],
    ['spam', { spamRisk: 80, judged: 'clean', judgedAt: NOW }, 'fine: sound by your mark'],
    ['spam', { spamRisk: 2, judged: 'spam', judgedAt: NOW }, 'bad: spam by your mark'],
  ])('%s %j', (item, facts, words) => {
    expect(point(item, facts)).toBe(words);
  });

  it('lets the person answer any point; the last answer counts, and what was found stays beside it', () => {
    const facts = { ...NOTHING, frontAt: NOW - 5 };
    const ticks = [
      { item: 'forwarding', at: 10, state: 'look', note: '', who: 'you' },
      { item: 'forwarding', at: 20, state: 'bad', note: 'by a script, after a second', who: 'you' },
      { item: 'claims', at: 30, state: 'fine', note: '', who: 'you' },
    ] as const;
    const points = diligenceOf(facts, ticks);
    expect(points.find(({ item }) => item === 'forwarding')).toMatchObject({
      state: 'bad',
      answer: 'by a script, after a second',
      at: 20,
      by: 'you',
      found: { state: 'fine', answer: 'it forwards nowhere', at: NOW - 5 },
    });
    expect(points.find(({ item }) => item === 'claims')).toMatchObject({
      state: 'fine',
      answer: 'looked at, fine',
      found: null,
    });
    expect(diligenceTally(points)).toEqual({ all: 17, answered: 2, look: 0, bad: 1 });
  });
});

describe('domains side by side', () => {
  interface Row {
    links: number | null;
    phase: string;
  }
  const SPECS: FactSpec<Row>[] = [
    {
      group: 'Links',
      title: 'Domains',
      show: ({ links }) => (links === null ? null : String(Math.round(links))),
      measure: ({ links }) => links,
      better: 'more',
    },
    { group: 'Offer', title: 'Phase', show: ({ phase }) => phase },
  ];
  const compare = (...rows: Row[]) => compareFacts(rows, SPECS);

  it('says what differs and which is best, where one way is better', () => {
    const [links, phase] = compare({ links: 5, phase: 'free' }, { links: 12, phase: 'free' });
    expect(links).toMatchObject({ shown: ['5', '12'], differs: true, best: 1 });
    expect(phase).toMatchObject({ differs: false, best: null });
  });

  it('takes what is not known for a gap, not for a difference, and nothing for better that looks the same', () => {
    expect(compare({ links: 5, phase: 'free' }, { links: null, phase: 'taken' })[0]).toMatchObject({
      differs: false,
      best: null,
    });
    expect(compare({ links: 5.1, phase: 'free' }, { links: 5.2, phase: 'free' })[0]).toMatchObject({
      differs: false,
      best: null,
    });
  });
});
