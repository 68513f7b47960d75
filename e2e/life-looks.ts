import { type DropWindow, expectedDrop, expiryOf, type RegistrarHabit } from '../src/core/lifecycle/drop-window';
import type { LifePhase } from '../src/core/lifecycle/moves';
import { judgePhase, type RegistrationRecord } from '../src/core/lifecycle/phase';
import { type LifePolicy, lapseDays, policyFor } from '../src/core/lifecycle/policies';
import { readRdap } from '../src/core/lifecycle/rdap-answer';
import { readWhois } from '../src/core/lifecycle/whois-text';
import { type Limiter, REGISTRIES, rdapAnswer, whoisText } from '../standins/registries';
import { DAY, dropOf, makeWorld, stateAt, type World, type WorldDomain } from '../standins/world';

export const START = Date.UTC(2026, 10, 20, 8);
/** The world whose lives are looked at. */
export const world = makeWorld(5, START, 6000);
const NEVER_TOO_MANY = { wait: () => 0 } as unknown as Limiter;

/** What its registry says of a name at a moment, read as the product reads it. */
function recordAt(from: World, domain: WorldDomain, at: number): RegistrationRecord | null {
  const registry = REGISTRIES.find(({ endings }) => endings.includes(domain.ending));
  if (!registry) return readWhois(whoisText(from, domain.name, at), domain.name).record;
  const page = rdapAnswer(from, NEVER_TOO_MANY, registry.host, `/domain/${domain.name}`, at);
  const received = { status: page?.status ?? 0, contentType: 'application/rdap+json', body: String(page?.body) };
  return readRdap({ ...received, serverKnown: true }, domain.name).record;
}

export interface Look {
  domain: WorldDomain;
  phase: LifePhase;
  window: DropWindow | null;
  policy: LifePolicy;
  at: number;
}

/** Everybody who was let go in the last years, looked at on one day of their lapse. */
const lapsing = [...world.domains.values()].filter((domain) => dropOf(domain) !== null && !domain.disagrees);

export function look(domain: WorldDomain, at: number, habits: Map<string, RegistrarHabit>): Look | null {
  const record = recordAt(world, domain, at);
  if (!record) return null;
  const policy = policyFor(domain.ending);
  const { phase } = judgePhase({ dns: 'nxdomain', record: { outcome: 'found', record } }, at);
  const seen = { phase, record, lastSeenBefore: null, firstSeenIn: null };
  const window = expectedDrop(seen, policy, habits.get(record.registrar ?? '') ?? null, at);
  return { domain, phase: phase as LifePhase, window, policy, at };
}

/** What looks at names in redemption teach of their registrars. */
export function learnHabits(): Map<string, RegistrarHabit> {
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
export function widestMs({ phase, policy }: Look): number {
  const [shortest, longest] = lapseDays(policy);
  const open = phase === 'active' || phase === 'auto-renew' ? longest - shortest : 0;
  return (open + 1 + 2 * (policy.marginDays ?? 0)) * DAY;
}

/** Days before the drop at which names are looked at: before the expiry, in every stage, in the last hours. */
const LOOK_DAYS = [0.2, 1.5, 4, 8, 20, 33, 38, 45, 60, 68, 75, 90];

/** One look at every name that was let go, spread over its whole lapse. */
export function looksAtAll(habits: Map<string, RegistrarHabit>): Look[] {
  return lapsing.flatMap(
    (domain, i) => look(domain, (dropOf(domain) as number) - LOOK_DAYS[i % LOOK_DAYS.length] * DAY, habits) ?? [],
  );
}

export function isInside({ domain, window }: Look): boolean {
  const drop = dropOf(domain) as number;
  return window !== null && drop >= window.from && drop <= window.to;
}
