import { describe, expect, it } from 'vitest';
import { loadLanguages } from '../core/history/language';
import { judgeLine, KINDS } from '../core/judge/kinds';
import { nameWordsFor } from '../engine/pool/lexicons';
import { sheetsOf } from '../services/files/sheets';

const tools = { nameWords: nameWordsFor, languageOf: await loadLanguages(), sheetsOf };
/** Answers have many forms, so nothing is known of their types. */
const judge = (kind: string, value: unknown): ReturnType<typeof JSON.parse> =>
  judgeLine(KINDS[kind], typeof value === 'string' ? value : JSON.stringify(value), 7, 0, tools);

describe('judge subject', () => {
  it('reads text and pages', () => {
    const text =
      'Sourdough from a wood-fired oven, rye tins, croissants on Saturday; learn to bake bread with our starter.';
    expect(judge('subject', { text })).toMatchObject({ subject: 'food.baking', area: 'food', language: 'en' });
    expect(judge('subject', { html: `<title>Rye</title><nav>Home Contact</nav><p>${text}</p>` }).subject).toBe(
      'food.baking',
    );
    expect(judge('subject', { text: null, html: null })).toMatchObject({ subject: null, area: null, runnerUp: null });
  });
  it('says nothing in a language that is not read, and tells which it is', () => {
    const text =
      'Padaria artesanal com pão de fermentação natural, bolos e salgados feitos todos os dias pela nossa família.';
    expect(judge('subject', { text })).toMatchObject({ subject: null, language: 'pt' });
  });
  it('tells names by their words', () => {
    expect(judge('name-subject', { domain: 'lowmoorbrewery.com' })).toMatchObject({
      subject: 'food.beer',
      language: 'en',
    });
    expect(judge('name-subject', { domain: 'imkerei-honig.de' })).toMatchObject({
      subject: 'farming.beekeeping',
      language: 'de',
    });
    expect(judge('name-subject', {}).error).toContain('domain');
  });
});

describe('judge past', () => {
  const bees = (at: string, text: string) => ({ at, status: 200, title: 'Vale Bees', text });
  it('gives eras, drops and years', () => {
    const answer = judge('past', {
      domain: 'valebees.com',
      registeredAt: '2004-01-01',
      captures: [
        bees('2005-01-01', 'Hives, swarms and honey; meetings at the apiary.'),
        bees('2011-01-01', 'Queen rearing course, extractor to borrow, honey show.'),
        { at: '2013-01-01', status: 200, title: 'valebees.com', text: 'Ce nom de domaine est à vendre.' },
        {
          at: '2015-01-01',
          status: 200,
          title: 'Slots',
          text: 'Casino bonus, free spins, roulette and jackpot slots.',
        },
      ],
    });
    expect(answer.eras.map(({ kind, subject }: { kind: string; subject: string | null }) => [kind, subject])).toEqual([
      ['content', 'farming.beekeeping'],
      ['for-sale', null],
      ['content', 'games.gambling'],
    ]);
    expect(answer.drops).toHaveLength(1);
    expect(answer.topicChange).toBeGreaterThan(0.8);
    expect(answer.contentYears).toBeCloseTo(6, 0);
  });
  it('follows the own www address, and takes what scripts draw for unknown', () => {
    const answer = judge('past', {
      domain: 'valebees.com',
      captures: [
        { at: '2005-01-01', status: 301, location: 'http://www.valebees.com/' },
        bees('2006-01-01', 'Hives, swarms and honey.'),
        { at: '2009-01-01', status: 200, html: '<div id="root"></div><script src="app.js"></script>' },
      ],
    });
    expect(answer.eras.map(({ kind }: { kind: string }) => kind)).toEqual(['content', 'unknown']);
    expect(judge('past', { domain: 'x.com' })).toMatchObject({ eras: [], topicChange: null, contentYears: 0 });
  });
});

describe('judge spam and referrers', () => {
  const links = (many: number, anchor: string, more: object = {}) =>
    Array.from({ length: many }, (_, n) => ({
      site: `s${n}-${anchor.length}.com`,
      anchor,
      firstSeenAt: `20${10 + (n % 10)}-05-01`,
      ...more,
    }));
  it('tells an abused name from a club, with the rules', () => {
    const club = judge('spam', { domain: 'valebees.com', links: links(30, 'Vale Bees') });
    const pills = judge('spam', {
      domain: 'valebees.com',
      links: [...links(10, 'Vale Bees'), ...links(40, 'buy cheap viagra', { firstSeenAt: '2024-02-01' })],
    });
    expect(club.risk).toBeLessThan(20);
    expect(pills.risk).toBeGreaterThan(80);
    expect(pills.rules).toContainEqual(
      expect.objectContaining({ rule: 'money-anchors', measured: '80% (40 of 50 referring domains)' }),
    );
    expect(judge('spam', { domain: 'valebees.com' }).risk).toBeNull();
  });
  it('counts votes, and says what was taken for what', () => {
    const owned = [1, 2, 3].map((n) => ({
      site: `o${n}.com`,
      registrant: 'Tarn Media',
      nameServers: ['ns1.a.com'],
      addressBlock: '192.0.2',
    }));
    const alone = [1, 2].map((n) => ({ site: `p${n}.com`, registrant: 'Privacy service' }));
    const answer = judge('referrers', { referrers: [...owned, ...alone, { site: 'n.com', nofollow: true }] });
    expect(answer.effective).toBe(3);
    expect(answer.discounts).toEqual([
      expect.objectContaining({ domains: ['o1.com', 'o2.com', 'o3.com'], taken: 2 }),
      expect.objectContaining({ domains: ['n.com'], taken: 1 }),
    ]);
    expect(judge('referrers', '{"referrers": 5}')).toMatchObject({ line: 7, error: expect.any(String) });
  });
});
