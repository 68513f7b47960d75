import { describe, expect, it } from 'vitest';
import { eraWords } from './era-words';
import { type LifeInput, type LifeLane, lifeOf, widenLife } from './life';
import type { Era } from './past';

const at = (date: string) => Date.parse(`${date}T00:00:00Z`);
const NOW = at('2026-11-20');
const era = (from: string, to: string, more: Partial<Era> = {}): Era => ({
  from: at(from),
  to: at(to),
  kind: 'content',
  title: '',
  language: 'en',
  subject: 'Beekeeping',
  redirectTo: null,
  captures: 4,
  read: 2,
  ...more,
});
const input = (more: Partial<LifeInput> = {}): LifeInput => ({
  now: NOW,
  phase: 'active',
  registeredAt: null,
  expiresAt: null,
  dropFrom: null,
  dropTo: null,
  firstSeenAt: null,
  lastSeenAt: null,
  capturesByYear: null,
  past: null,
  mainSubject: null,
  observations: [],
  ...more,
});
const iso = (time: number) => new Date(time).toISOString().slice(0, 10);
const lane = (given: Partial<LifeInput>, which: LifeLane) =>
  lifeOf(input(given))
    .spans.filter((span) => span.lane === which)
    .map(({ look, from, to, label }) => `${look} ${iso(from)} ${iso(to)} ${label}`);

describe('a life on one axis', () => {
  it('draws content of the main subject solid, of another subject or language light, and the rest by its kind', () => {
    const eras = [
      era('2010-01-01', '2014-01-01'),
      era('2014-01-01', '2015-01-01', { kind: 'parked', subject: null, language: null }),
      era('2015-01-01', '2016-01-01', { subject: 'Gambling' }),
      era('2016-01-01', '2017-01-01', { language: 'de' }),
      era('2017-01-01', '2018-01-01', {
        kind: 'redirect',
        redirectTo: 'tarnshop.example',
        subject: null,
        language: null,
      }),
    ];
    const past = { eras, drops: [], language: 'en' };
    expect(lane({ past, mainSubject: 'Beekeeping' }, 'content')).toEqual([
      'solid 2010-01-01 2014-01-01 Beekeeping',
      'ticks 2014-01-01 2015-01-01 parked',
      'light 2015-01-01 2016-01-01 Gambling',
      'light 2016-01-01 2017-01-01 Beekeeping',
      'hollow 2017-01-01 2018-01-01 to tarnshop.example',
    ]);
    expect(lane({ past, mainSubject: 'Beekeeping' }, 'language')).toEqual([
      'language 2010-01-01 2016-01-01 English',
      'language 2016-01-01 2017-01-01 German',
    ]);
  });

  it('says on the last content how far it has drifted from the main one', () => {
    const eras = [era('2010-01-01', '2020-01-01'), era('2020-01-01', '2022-01-01', { subject: 'Gambling' })];
    const labels = (drift: number) =>
      lane({ past: { eras, drops: [], language: 'en', drift }, mainSubject: 'Beekeeping' }, 'content').map((one) =>
        one.split(' ').slice(3).join(' '),
      );
    expect(labels(0.95)).toEqual(['Beekeeping', 'Gambling, topic change 0.95']);
    expect(labels(0.05)).toEqual(['Beekeeping', 'Gambling']);
  });

  it('shows captures that nobody read as such, by year', () => {
    expect(lane({ capturesByYear: [{ year: 2012, captures: 3 }] }, 'content')).toEqual([
      'unread 2012-01-01 2012-12-31 3',
    ]);
  });

  it('tells a registration that the record shows from one that captures show', () => {
    const life = { firstSeenAt: at('2009-05-01'), lastSeenAt: at('2025-01-01') };
    expect(lane({ ...life, registeredAt: at('2009-04-01'), expiresAt: at('2027-04-01') }, 'registration')).toEqual([
      'line 2009-04-01 2027-04-01 registered',
    ]);
    expect(lane({ ...life, registeredAt: at('2020-01-01'), expiresAt: at('2027-04-01') }, 'registration')).toEqual([
      'dashed 2009-05-01 2020-01-01 registered',
      'line 2020-01-01 2027-04-01 registered',
    ]);
    expect(lane({ ...life, phase: 'free' }, 'registration')).toEqual(['dashed 2009-05-01 2025-01-01 registered']);
  });

  it('parts a life where it changed hands, and points at the drop that is expected', () => {
    const drops = [{ from: at('2014-01-01'), to: at('2014-06-01'), why: 'another site followed' }];
    expect(
      lane(
        {
          past: { eras: [], drops, language: null },
          firstSeenAt: at('2009-05-01'),
          lastSeenAt: at('2025-01-01'),
          phase: 'pending-delete',
          dropFrom: at('2026-11-22'),
          dropTo: at('2026-11-22'),
        },
        'registration',
      ),
    ).toEqual([
      'dashed 2009-05-01 2014-01-01 registered',
      'drop 2014-01-01 2014-06-01 changed hands',
      'dashed 2014-06-01 2025-01-01 registered',
      'drop 2026-11-22 2026-11-22 drop expected',
    ]);
  });

  it('does not take the next expiry of a name that is taken for a drop', () => {
    expect(lane({ dropFrom: at('2020-01-01'), dropTo: at('2020-01-01') }, 'registration')).toEqual([]);
  });

  it('reaches over everything that is known, and over a year where nothing is', () => {
    const empty = lifeOf(input());
    expect(empty.spans).toEqual([]);
    expect(empty.to - empty.from).toBeGreaterThan(365 * 86_400_000);
    const seen = lifeOf(input({ observations: [{ at: at('2001-01-01'), what: 'asked', detail: '' }] }));
    expect(seen.from).toBe(at('2001-01-01'));
    expect(seen.to).toBeGreaterThan(NOW);
  });
});

describe('a life with its links', () => {
  it('begins no later than the first link, and as before where none is dated', () => {
    const life = lifeOf(input());
    const links = [{ from: at('2012-01-01'), to: at('2012-04-01'), gained: 3, lost: 0 }];
    expect(widenLife(life, links).from).toBe(at('2012-01-01'));
    expect(widenLife(life, [])).toEqual(life);
  });
});

describe('the words of an era', () => {
  const captures = [
    { at: 10, terms: new Map([['hive', 2], ['letter', 9]]) },
    { at: 20, terms: new Map([['hive', 3], ['mead', 1]]) },
    { at: 90, terms: new Map([['casino', 5]]) },
  ]; // biome-ignore format: a capture each

  it('are those of its subject that its own captures say, or what they say most where it has none', () => {
    const era = { from: 0, to: 50 };
    expect(eraWords(era, captures, new Set(['hive', 'mead', 'casino']), 8)).toEqual([
      { word: 'hive', times: 5 },
      { word: 'mead', times: 1 },
    ]);
    expect(eraWords(era, captures, new Set(), 1)).toEqual([{ word: 'letter', times: 9 }]);
  });
});
