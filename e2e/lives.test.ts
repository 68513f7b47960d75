import { describe, expect, it } from 'vitest';
import {
  type DropWindow,
  expectedDrop,
  expiryOf,
  LEAST_FOR_HABIT,
  type RegistrarHabit,
} from '../src/core/lifecycle/drop-window';
import { isAllowedMove, type LifePhase } from '../src/core/lifecycle/moves';
import { judgePhase, type RegistrationRecord } from '../src/core/lifecycle/phase';
import { type LifePolicy, lapseDays, policyFor } from '../src/core/lifecycle/policies';
import { readWhois } from '../src/core/lifecycle/whois-text';
import { readAnswer } from '../src/net/rdap';
import { type Limiter, REGISTRIES, rdapAnswer, whoisText } from '../standins/registries';
import { DAY, dropOf, makeWorld, stateAt, type World, type WorldDomain } from '../standins/world';

const START = Date.UTC(2026, 10, 20, 8);
const HOUR = DAY / 24;
const world = makeWorld(5, START, 6000);
const NEVER_TOO_MANY = { wait: () => 0 } as unknown as Limiter;

/** What its registry says of a name at a moment, read as the product reads it. */
function recordAt(from: World, domain: WorldDomain, at: number): RegistrationRecord | null {
  const registry = REGISTRIES.find(({ endings }) => endings.includes(domain.ending));
  if (!registry) return readWhois(whoisText(from, domain.name, at), domain.name).record;
  const page = rdapAnswer(from, NEVER_TOO_MANY, registry.host, `/domain/${domain.name}`, at);
  return readAnswer(page?.status ?? 0, String(page?.body), domain.name).record;
}

interface Look {
  domain: WorldDomain;
  phase: LifePhase;
  window: DropWindow | null;
  policy: LifePolicy;
  at: number;
}

/** Everybody who was let go in the last years, looked at on one day of their lapse. */
const lapsing = [...world.domains.values()].filter((domain) => dropOf(domain) !== null && !domain.disagrees);

function look(domain: WorldDomain, at: number, habits: Map<string, RegistrarHabit>): Look | null {
  const record = recordAt(world, domain, at);
  if (!record) return null;
  const policy = policyFor(domain.ending);
  const { phase } = judgePhase({ dns: 'nxdomain', record: { outcome: 'found', record } }, at);
  const seen = { phase, record, lastSeenBefore: null, firstSeenIn: null };
  const window = expectedDrop(seen, policy, habits.get(record.registrar ?? '') ?? null, at);
  return { domain, phase: phase as LifePhase, window, policy, at };
}

/** What looks at names in redemption teach of their registrars. */
function learnHabits(): Map<string, RegistrarHabit> {
  const days = new Map<string, number[]>();
  for (const domain of lapsing.filter((_, i) => i % 5 === 0)) {
    const policy = policyFor(domain.ending);
    if (policy.autoRenewDays[1] === 0) continue;
    const at = (dropOf(domain) as number) - 20 * DAY;
    const record = recordAt(world, domain, at);
    if (!record?.changedAt || !record.registrar || stateAt(domain, at).phase !== 'redemption') continue;
    const expiredAt = expiryOf({ phase: 'redemption', record }, policy, at) as number;
    const list = days.get(record.registrar) ?? [];
    days.set(record.registrar, [...list, (record.changedAt - expiredAt) / DAY]);
  }
  return new Map(
    [...days].map(([registrar, list]) => [
      registrar,
      { registrar, days: [Math.min(...list), Math.max(...list)], names: list.length },
    ]),
  );
}

/** The widest a window may be: what the policy leaves open, and the hours of the day at which names drop. */
function widestMs({ phase, policy }: Look): number {
  const [shortest, longest] = lapseDays(policy);
  const open = phase === 'active' || phase === 'auto-renew' ? longest - shortest : 0;
  return open * DAY + 24 * HOUR;
}

describe('the expected drop, against every life of the world', () => {
  const habits = learnHabits();
  const looks = lapsing.flatMap((domain, i) => {
    const drop = dropOf(domain) as number;
    // one day each, spread over the whole lapse: before the expiry, in every stage, in the last hours
    const back = [0.2, 1.5, 4, 8, 20, 33, 38, 45, 60, 68, 75, 90][i % 12] * DAY;
    return look(domain, drop - back, habits) ?? [];
  });

  it('looks at thousands of names in every phase', () => {
    expect(looks.length).toBeGreaterThan(5000);
    for (const phase of ['active', 'auto-renew', 'redemption', 'pending-delete'] as const)
      expect(looks.filter((one) => one.phase === phase).length, phase).toBeGreaterThan(150);
    for (const habit of habits.values()) expect(habit.names).toBeGreaterThan(LEAST_FOR_HABIT);
    expect(habits.size).toBe(5);
  });

  it('has the true drop within the window at least 95 times of 100, in every phase and under every ending', () => {
    const groups = new Map<string, { inside: number; all: number }>();
    for (const { domain, phase, window } of looks) {
      expect(window, domain.name).not.toBeNull();
      const drop = dropOf(domain) as number;
      const isInside = window !== null && drop >= window.from && drop <= window.to;
      for (const key of ['all', phase, domain.ending]) {
        const group = groups.get(key) ?? { inside: 0, all: 0 };
        group.all++;
        if (isInside) group.inside++;
        groups.set(key, group);
      }
    }
    for (const [key, { inside, all }] of groups)
      expect(inside / all, `${key}: ${inside} of ${all}`).toBeGreaterThan(0.95);
  });

  it('has windows no wider than the policy forces', () => {
    for (const one of looks)
      expect((one.window?.to ?? 0) - (one.window?.from ?? 0), `${one.domain.name} ${one.phase}`).toBeLessThanOrEqual(
        widestMs(one),
      );
  });

  it('is narrower where the registrar is known, and hours wide in pending delete', () => {
    const width = (list: (Look | null)[]) => {
      const widths = list.flatMap((one) => (one?.window ? one.window.to - one.window.from : [])).sort((a, b) => a - b);
      return widths[widths.length >> 1];
    };
    const inGrace = looks.filter(({ phase, policy }) => phase === 'auto-renew' && policy.autoRenewDays[1] > 40);
    const blind = inGrace.map(({ domain, at }) => look(domain, at, new Map()));
    expect(width(inGrace)).toBeLessThan(width(blind) / 2);
    const lastStage = looks.filter(({ phase, policy }) => phase === 'pending-delete' && policy.dropHours[1] < 24);
    expect(width(lastStage)).toBeLessThanOrEqual(2 * HOUR);
  });

  it('says how it came to it', () => {
    const inGrace = looks.find(({ phase, policy }) => phase === 'auto-renew' && policy.ending === 'com');
    const reasons = inGrace?.window?.reasons.join('; ');
    expect(reasons).toMatch(/expired \d+ days ago/);
    expect(reasons).toContain('auto-renew period of up to 45 days');
    expect(reasons).toMatch(/deleted between day \d+ and \d+, \d+ names seen/);
    expect(reasons).toContain('pending delete of 5 days');
    expect(reasons).toContain('between 18:00 and 20:00 UTC');
  });
});

describe('the phases of every life', () => {
  it('move along allowed edges only', () => {
    const wrong: string[] = [];
    let moves = 0;
    for (const [i, domain] of [...world.domains.values()].entries()) {
      if (domain.disagrees || i % 4 > 0) continue;
      // every stage is longer than a day
      const last = Math.min(START + 40 * DAY, (dropOf(domain) ?? START) + 5 * DAY);
      let before = stateAt(domain, last - 110 * DAY).phase;
      for (let at = last - 109 * DAY; at < last; at += DAY) {
        const { phase } = stateAt(domain, at);
        if (phase !== before) moves++;
        if (!isAllowedMove(before, phase)) wrong.push(`${domain.name}: ${before} to ${phase}`);
        before = phase;
      }
    }
    expect(wrong).toEqual([]);
    expect(moves).toBeGreaterThan(2000);
  });
});
