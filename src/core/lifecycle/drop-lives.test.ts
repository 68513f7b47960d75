import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type DropWindow, expectedDrop, narrowed } from './drop-window';
import { type LifePolicy, POLICIES, policyFor } from './policies';

const DAY = 86_400_000;
const HOUR = DAY / 24;
const EXPIRES = Date.UTC(2026, 5, 10, 9, 30);

/** A name that nobody renews, under a policy that holds for it. */
interface Life {
  policy: LifePolicy;
  redemptionAt: number;
  pendingDeleteAt: number;
  dropAt: number;
  /** Whether its record shows when it was last changed. */
  isChangeShown: boolean;
  /** Whether it shows an expiry at all. */
  isExpiryShown: boolean;
}

const share = fc.double({ min: 0, max: 1, noNaN: true });
const between = ([from, to]: readonly [number, number], part: number) => from + (to - from) * part;

const lives: fc.Arbitrary<Life> = fc
  .record({
    policy: fc.constantFrom(...POLICIES),
    a: share,
    b: share,
    c: share,
    d: share,
    isChangeShown: fc.boolean(),
    isExpiryShown: fc.boolean(),
  })
  .map(({ policy, a, b, c, d, isChangeShown, isExpiryShown }) => {
    const redemptionAt = Math.round(EXPIRES + between(policy.autoRenewDays, a) * DAY);
    const pendingDeleteAt = Math.round(redemptionAt + between(policy.redemptionDays, b) * DAY);
    const ends = Math.round(pendingDeleteAt + between(policy.pendingDeleteDays, c) * DAY);
    return { policy, redemptionAt, pendingDeleteAt, dropAt: dropOn(ends, policy, d), isChangeShown, isExpiryShown };
  });

/** The registry sets it free at some moment of its hours on the day the last stage ends, or on its next day for that. */
function dropOn(ends: number, { dropHours: [from, to], dropWeekdays }: LifePolicy, part: number): number {
  if (from === 0 && to === 24 && !dropWeekdays) return Math.round(ends + part * 0.9 * DAY);
  let day = Math.floor(ends / DAY) * DAY;
  while (dropWeekdays && !dropWeekdays.includes(new Date(day).getUTCDay())) day += DAY;
  return Math.round(day + (from + (to - from) * part * 0.99) * HOUR);
}

function phaseAt(
  { redemptionAt, pendingDeleteAt }: Life,
  at: number,
): 'active' | 'auto-renew' | 'redemption' | 'pending-delete' {
  if (at < EXPIRES) return 'active';
  if (at < redemptionAt) return 'auto-renew';
  return at < pendingDeleteAt ? 'redemption' : 'pending-delete';
}

/** What looks on these days find, remembered as the product does. */
function looks(life: Life, moments: number[]): { at: number; window: DropWindow }[] {
  const found: { at: number; window: DropWindow }[] = [];
  const memory = { phase: '', first: 0, last: null as number | null, beforeAt: null as number | null };
  let known: DropWindow | null = null;
  for (const at of moments) {
    const phase = phaseAt(life, at);
    if (memory.phase !== phase) Object.assign(memory, { phase, first: at, beforeAt: memory.last });
    memory.last = at;
    const changes = {
      redemption: life.redemptionAt,
      'pending-delete': life.pendingDeleteAt,
      active: null,
      'auto-renew': null,
    };
    const isMoved = life.policy.isExpiryMoved && phase === 'auto-renew';
    const record = {
      expiresAt: life.isExpiryShown ? (isMoved ? Date.UTC(2027, 5, 10, 9, 30) : EXPIRES) : null,
      changedAt: life.isChangeShown ? changes[phase] : null,
      registrar: null,
    };
    const seen = { phase, record, lastSeenBefore: memory.beforeAt, firstSeenIn: memory.first };
    const window = expectedDrop(seen, life.policy, null, at);
    if (!window) continue;
    known = narrowed(known, window);
    found.push({ at, window: known });
  }
  return found;
}

const inside = (life: Life) =>
  fc
    .array(share, { minLength: 2, maxLength: 12 })
    .map((parts) =>
      parts.map((part) => EXPIRES - 20 * DAY + part * (life.dropAt - EXPIRES + 20 * DAY - HOUR)).sort((a, b) => a - b),
    );

describe('looks at any days of a life', () => {
  const lifeWithLooks = lives.chain((life) => fc.tuple(fc.constant(life), inside(life)));

  it('give windows that hold the true drop', () => {
    fc.assert(
      fc.property(lifeWithLooks, ([life, moments]) => {
        for (const { at, window } of looks(life, moments)) {
          const words = `${life.policy.ending}, looked at ${new Date(at).toISOString()}: ${window.reasons.join('; ')}`;
          expect(window.from, words).toBeLessThanOrEqual(life.dropAt);
          expect(window.to, words).toBeGreaterThanOrEqual(life.dropAt);
        }
      }),
      { numRuns: 5000 },
    );
  });

  it('only narrow them', () => {
    fc.assert(
      fc.property(lifeWithLooks, ([life, moments]) => {
        let before: DropWindow | null = null;
        for (const { window } of looks(life, moments)) {
          if (before) {
            expect(window.from).toBeGreaterThanOrEqual(before.from);
            expect(window.to).toBeLessThanOrEqual(before.to);
          }
          before = window;
        }
      }),
      { numRuns: 5000 },
    );
  });

  it('never move the end of one while nothing changes, however often it is looked again', () => {
    fc.assert(
      fc.property(
        lives,
        fc.constantFrom('auto-renew' as const, 'redemption' as const, 'pending-delete' as const),
        fc.array(fc.integer({ min: 0, max: 400 }), { minLength: 2, maxLength: 8 }),
        fc.boolean(),
        fc.boolean(),
        ({ policy }, phase, days, isDated, isSeen) => {
          const record = { expiresAt: isDated ? EXPIRES : null, changedAt: null, registrar: null };
          const first = EXPIRES + Math.min(...days) * DAY;
          const ends = days
            .toSorted((a, b) => a - b)
            .flatMap(
              (day) =>
                expectedDrop(
                  { phase, record, lastSeenBefore: null, firstSeenIn: isSeen || !isDated ? first : null },
                  policy,
                  null,
                  EXPIRES + day * DAY,
                ) ?? [],
            )
            .filter(({ isConditional }) => !isConditional)
            .map(({ to }) => to);
          expect(new Set(ends).size).toBeLessThanOrEqual(1);
        },
      ),
      { numRuns: 5000 },
    );
  });
});

describe('policies', () => {
  const MOST_REGISTERED =
    'com de net org uk cn ru nl br xyz fr eu info au it co online ca top shop ch in pl se es site store biz us io be at jp dk cz ir club me ua hu mx no app dev live vip pro tr kr ro gr za nz pt fi ar sk tv cc ai vn'.split(
      ' ',
    );

  it('are there for the endings with most registrations, and second levels share their registry’s', () => {
    expect(MOST_REGISTERED.filter((ending) => policyFor(ending).ending === '*')).toEqual([]);
    expect(MOST_REGISTERED.length).toBeGreaterThanOrEqual(60);
    for (const ending of ['co.uk', 'org.uk', 'me.uk', 'com.br', 'co.jp', 'com.au', 'co.nz', 'com.ua', 'co.za'])
      expect(policyFor(ending).ending).toBe(ending.slice(ending.lastIndexOf('.') + 1));
  });

  it('say where they are from; what is from memory says so, and has a margin where the registry does not bind itself', () => {
    for (const { ending, basis, reference, marginDays = 0 } of POLICIES) {
      expect(['documented', 'recalled', 'assumed']).toContain(basis);
      if (basis === 'recalled') expect(reference, ending).toContain('from memory');
      if (basis === 'assumed') expect([reference.includes('assumed'), marginDays > 0], ending).toEqual([true, true]);
    }
  });

  it('of an ending that is not listed are assumed, and the window says so', () => {
    const policy = policyFor('garden');
    const record = { expiresAt: EXPIRES, changedAt: null, registrar: null };
    const window = expectedDrop(
      { phase: 'redemption', record, lastSeenBefore: null, firstSeenIn: null },
      policy,
      null,
      EXPIRES + 50 * DAY,
    );
    expect(window?.reasons.join('; ')).toContain('are assumed');
  });
});
