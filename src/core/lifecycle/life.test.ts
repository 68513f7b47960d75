import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type DropWindow, expectedDrop, type LifeSeen } from './drop-window';
import { lifeEvents } from './life-events';
import { isAllowedMove, type LifePhase, phasesBetween } from './moves';
import { isParkingServer } from './parking';
import { PHASES, type RegistrationRecord } from './phase';
import { lapseDays, POLICIES, policyFor } from './policies';
import { IN_WINDOW_MS, nextLook } from './recheck';

const DAY = 86_400_000;
const HOUR = DAY / 24;
const NOW = Date.UTC(2026, 10, 20, 8);
const LIFE_PHASES = PHASES.filter((phase): phase is LifePhase => phase !== 'unknown');
const record = (part: Partial<RegistrationRecord> = {}): RegistrationRecord => ({
  statuses: [],
  registeredAt: NOW - 3000 * DAY,
  expiresAt: NOW + 100 * DAY,
  changedAt: null,
  registrar: 'Coombe Names',
  nameServers: ['ns1.coombehosting.net'],
  ...part,
});

describe('policies', () => {
  it('are found by the ending, its last part, or for all others; a person’s own go first', () => {
    expect(policyFor('com').ending).toBe('com');
    expect(policyFor('co.uk').ending).toBe('uk');
    expect(policyFor('ltd.com').ending).toBe('com');
    expect(policyFor('garden').ending).toBe('*');
    const own = { ...policyFor('com'), redemptionDays: [10, 10] as [number, number] };
    expect(policyFor('com', [own]).redemptionDays).toEqual([10, 10]);
    expect(policyFor('garden', [{ ...own, ending: '*' }]).redemptionDays).toEqual([10, 10]);
  });
  it('each say where they stand, and make sense', () => {
    for (const policy of POLICIES) {
      expect(policy.reference.length).toBeGreaterThan(10);
      const [shortest, longest] = lapseDays(policy);
      expect(shortest).toBeLessThanOrEqual(longest);
      expect(policy.dropHours[0]).toBeLessThan(policy.dropHours[1]);
    }
  });
});

describe('moves', () => {
  const phase = fc.constantFrom(...LIFE_PHASES);
  it('between any two phases go along allowed edges only', () => {
    fc.assert(
      fc.property(phase, phase, fc.boolean(), (before, after, isNew) => {
        const path = phasesBetween(before, after, isNew);
        expect(path[0]).toBe(before);
        expect(path.at(-1)).toBe(after);
        for (let i = 1; i < path.length; i++) expect(isAllowedMove(path[i - 1], path[i]), path.join(' ')).toBe(true);
        if (isNew) expect(path).toContain('free');
      }),
    );
  });
  it('never lead from pending delete back to its owner', () => {
    expect(isAllowedMove('pending-delete', 'active')).toBe(false);
    expect(phasesBetween('pending-delete', 'active')).toEqual(['pending-delete', 'free', 'active']);
    expect(phasesBetween('active', 'pending-delete')).toEqual(['active', 'redemption', 'pending-delete']);
  });
});

describe('expectedDrop', () => {
  const com = policyFor('com');
  const seen = (part: Partial<LifeSeen>): LifeSeen => ({
    phase: 'auto-renew',
    record: record(),
    lastSeenBefore: null,
    firstSeenIn: null,
    ...part,
  });

  it('reckons from the record’s change where that is the stage’s beginning', () => {
    const changedAt = NOW - 2 * DAY;
    const window = expectedDrop(seen({ phase: 'pending-delete', record: record({ changedAt }) }), com, null, NOW);
    const day = Math.floor((changedAt + 5 * DAY) / DAY) * DAY;
    expect(window).toMatchObject({ from: day + 18 * HOUR, to: day + 20 * HOUR, isConditional: false });
  });
  it('reckons from its own looks where the record says nothing', () => {
    const looks = { lastSeenBefore: NOW - 3 * DAY, firstSeenIn: NOW - 2 * DAY };
    const window = expectedDrop(seen({ phase: 'pending-delete', record: null, ...looks }), com, null, NOW);
    expect(window?.from).toBe(Math.floor((NOW + 2 * DAY) / DAY) * DAY + 18 * HOUR);
    expect(window?.to).toBe(Math.floor((NOW + 3 * DAY) / DAY) * DAY + 20 * HOUR);
  });
  it('believes a habit only when enough names were seen', () => {
    const lapsed = record({ expiresAt: NOW - 12 * DAY + 365 * DAY });
    const habit = { registrar: 'Coombe Names', days: [30, 31] as [number, number] };
    const few = expectedDrop(seen({ record: lapsed }), com, { ...habit, names: 3 }, NOW) as DropWindow;
    const many = expectedDrop(seen({ record: lapsed }), com, { ...habit, names: 90 }, NOW) as DropWindow;
    expect(many.to - many.from).toBeLessThan(few.to - few.from);
    expect(many.reasons.join('; ')).toContain('expired 12 days ago');
    expect(many.from).toBeGreaterThan(NOW + (29 - 12 + 35 - 1) * DAY);
    expect(many.to).toBeLessThan(NOW + (32 - 12 + 35 + 1) * DAY);
  });
  it('of a name in good standing is only what happens if its owner does not renew', () => {
    expect(expectedDrop(seen({ phase: 'active' }), com, null, NOW)).toMatchObject({ isConditional: true });
    expect(expectedDrop(seen({ phase: 'active', record: null }), com, null, NOW)).toBeNull();
  });
  it.each(['free', 'not-registrable', 'unknown'] as const)('is none for a name that is %s', (phase) => {
    expect(expectedDrop(seen({ phase }), com, null, NOW)).toBeNull();
  });
  it('never ends before it begins, whatever the record says', () => {
    const at = fc.integer({ min: -400, max: 400 }).map((days) => NOW + days * DAY);
    const maybe = fc.option(at, { nil: null });
    fc.assert(
      fc.property(
        fc.constantFrom(...PHASES),
        maybe,
        maybe,
        maybe,
        maybe,
        fc.constantFrom(...POLICIES),
        (phase, expiresAt, changedAt, lastSeenBefore, firstSeenIn, policy) => {
          const past = (value: number | null) => (value === null ? null : Math.min(value, NOW));
          const life = {
            phase,
            record: record({ expiresAt, changedAt }),
            lastSeenBefore: past(lastSeenBefore),
            firstSeenIn: past(firstSeenIn),
          };
          const window = expectedDrop(life, policy, null, NOW);
          if (!window) return;
          expect(window.from).toBeLessThanOrEqual(window.to);
          // over only where it says so
          if (window.to < NOW) expect(window.reasons.at(-1)).toContain('should have dropped');
          expect(window.reasons.length).toBeGreaterThan(0);
        },
      ),
    );
  });
});

describe('lifeEvents', () => {
  const kinds = (...args: Parameters<typeof lifeEvents>) => lifeEvents(...args).map(({ kind }) => kind);
  it.each([
    ['auto-renew', 'active', 'renewed-late'],
    ['redemption', 'active', 'restored'],
    ['active', 'auto-renew', 'lapsed'],
    ['auto-renew', 'redemption', 'redemption'],
    ['redemption', 'pending-delete', 'pending-delete'],
    ['pending-delete', 'free', 'dropped'],
    ['free', 'active', 'registered-anew'],
    ['free', 'not-registrable', 'not-registrable'],
  ] as const)('from %s to %s is %s', (before, after, kind) => {
    expect(kinds({ phase: before, record: null }, { phase: after, record: null }, NOW)).toEqual([kind]);
  });
  it('tells what went by between two looks', () => {
    const [event] = lifeEvents({ phase: 'auto-renew', record: null }, { phase: 'free', record: null }, NOW);
    expect(event.words).toBe('Dropped: available (redemption went by between two looks).');
  });
  it('tells a move, other servers and parking', () => {
    const before = { phase: 'active' as const, record: record() };
    const next = (part: Partial<RegistrationRecord>) => ({ phase: 'active' as const, record: record(part) });
    expect(kinds(before, next({ registrar: 'Tarn and Daughters' }), NOW)).toEqual(['moved']);
    expect(kinds(before, next({ nameServers: ['ns2.coombehosting.net'] }), NOW)).toEqual(['name-servers']);
    expect(kinds(before, next({ nameServers: ['ns1.parking.restingvale.net'] }), NOW)).toEqual(['parked']);
    expect(kinds(before, next({ nameServers: [] }), NOW)).toEqual(['name-servers']);
    expect(kinds(before, next({}), NOW)).toEqual([]);
  });
  it('tells a renewal, and one at the last moment', () => {
    const soon = { phase: 'active' as const, record: record({ expiresAt: NOW + DAY }) };
    const later = { phase: 'active' as const, record: record({ expiresAt: NOW + 366 * DAY }) };
    expect(kinds(soon, later, NOW)).toEqual(['renewed-late']);
    expect(kinds({ ...soon, record: record({ expiresAt: NOW + 30 * DAY }) }, later, NOW)).toEqual(['renewed']);
  });
  it('takes a later registration for another one', () => {
    const before = { phase: 'pending-delete' as const, record: record() };
    const anew = { phase: 'active' as const, record: record({ registeredAt: NOW - HOUR, registrar: 'Tarn' }) };
    expect(kinds(before, anew, NOW)).toEqual(['registered-anew']);
  });
  it('makes nothing of a look without an answer', () => {
    expect(kinds({ phase: 'active', record: record() }, { phase: 'unknown', record: null }, NOW)).toEqual([]);
  });
});

describe('nextLook', () => {
  const look = (part: Partial<Parameters<typeof nextLook>[0]>) =>
    nextLook({ phase: 'active', expiresAt: null, window: null, failures: 0, ...part }, NOW) - NOW;
  const window = (from: number, to: number): DropWindow => ({
    from: NOW + from,
    to: NOW + to,
    isConditional: false,
    reasons: [],
  });

  it('comes rarely far from the expiry, and daily near it', () => {
    expect(look({ expiresAt: NOW + 300 * DAY })).toBe(30 * DAY);
    expect(look({ expiresAt: NOW + 20 * DAY })).toBe(5 * DAY);
    expect(look({ expiresAt: NOW + 2 * DAY })).toBe(DAY);
    expect(look({ phase: 'redemption' })).toBe(DAY);
  });
  it('comes often in the drop window, and does not jump over its beginning', () => {
    expect(look({ phase: 'pending-delete', window: window(2 * HOUR, 4 * HOUR) })).toBe(2 * HOUR);
    expect(look({ phase: 'pending-delete', window: window(-HOUR, HOUR) })).toBe(IN_WINDOW_MS);
    expect(look({ phase: 'redemption', window: window(20 * DAY, 40 * DAY) })).toBe(DAY);
  });
  it('comes later and later while nobody answers', () => {
    const waits = [1, 2, 3, 20].map((failures) => look({ phase: 'unknown', failures }));
    expect(waits).toEqual([...waits].sort((a, b) => a - b));
    expect(waits[3]).toBe(DAY);
  });
  it('is always ahead, and never more than a month', () => {
    const span = fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: 0, max: 60 }));
    fc.assert(
      fc.property(
        fc.constantFrom(...PHASES),
        fc.integer({ min: -100, max: 800 }),
        span,
        (phase, days, [from, width]) => {
          const wait = look({ phase, expiresAt: NOW + days * DAY, window: window(from * DAY, (from + width) * DAY) });
          expect(wait).toBeGreaterThan(0);
          expect(wait).toBeLessThanOrEqual(30 * DAY);
        },
      ),
    );
  });
});

describe('isParkingServer', () => {
  it.each([
    ['ns1.parking.restingvale.net', true],
    ['ns1.parked-names.net', true],
    ['park1.coombe.net', true],
    ['ns1.parkhurst.net', false],
    ['ns1.sparkling.net', false],
  ])('%s: %s', (server, is) => expect(isParkingServer(server)).toBe(is));
});
