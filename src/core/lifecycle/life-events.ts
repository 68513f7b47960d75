import { type LifePhase, phasesBetween } from './moves';
import { isParkingServer } from './parking';
import type { Phase, RegistrationRecord } from './phase';

/** What happened to a name between two looks. */
export const LIFE_EVENTS = [
  'lapsed',
  'renewed-late',
  'renewed',
  'redemption',
  'restored',
  'pending-delete',
  'dropped',
  'registered-anew',
  'moved',
  'name-servers',
  'parked',
  'not-registrable',
] as const;
export type LifeEventKind = (typeof LIFE_EVENTS)[number];

export interface LifeEvent {
  kind: LifeEventKind;
  /** One sentence with what it was and is. */
  words: string;
}

export interface LifeFacts {
  phase: Phase;
  /** null: no record was read. */
  record: RegistrationRecord | null;
}

const DAY = 86_400_000;
const date = (at: number) => new Date(at).toISOString().slice(0, 10);

/**
 * Events that explain how a name came from what the look before found to what this one finds, the most weighty first. A look that
 * got no answer (`unknown`) tells nothing, and what was not read is not compared.
 */
export function lifeEvents(before: LifeFacts, after: LifeFacts, now: number): LifeEvent[] {
  if (before.phase === 'unknown' || after.phase === 'unknown') return [];
  const events: LifeEvent[] = [];
  const add = (kind: LifeEventKind, words: string) => events.push({ kind, words });
  const was = before.record;
  const is = after.record;
  const isNew = isNewRegistration(was, is);
  const path = phasesBetween(before.phase, after.phase, isNew);
  if (isNew && is?.registeredAt)
    add(
      'registered-anew',
      `Dropped, and registered anew ${date(is.registeredAt)}${is.registrar ? ` at ${is.registrar}` : ''}.`,
    );
  else if (before.phase !== after.phase) events.push(moveEvent(before.phase, after.phase, path, is));
  if (!isNew && was && is) {
    if (
      before.phase === 'active' &&
      after.phase === 'active' &&
      was.expiresAt !== null &&
      is.expiresAt !== null &&
      is.expiresAt > was.expiresAt + 20 * DAY
    )
      // in the last days, or when it was over already: the owner let it come close
      add(
        was.expiresAt - now < 3 * DAY ? 'renewed-late' : 'renewed',
        `Renewed: it expires ${date(is.expiresAt)} instead of ${date(was.expiresAt)}.`,
      );
    if (was.registrar && is.registrar && was.registrar !== is.registrar)
      add('moved', `Moved from ${was.registrar} to ${is.registrar}.`);
    addServers(was.nameServers, is.nameServers, add);
  }
  return events;
}

type Add = (kind: LifeEventKind, words: string) => void;

function moveEvent(
  before: LifePhase,
  after: LifePhase,
  path: LifePhase[],
  record: RegistrationRecord | null,
): LifeEvent {
  const by = path.length > 2 ? ` (${path.slice(1, -1).map(wordsOf).join(', then ')} went by between two looks)` : '';
  const until = record?.expiresAt ? `, until ${date(record.expiresAt)}` : '';
  switch (after) {
    case 'auto-renew':
      return { kind: 'lapsed', words: `Expired without being renewed${by}.` };
    case 'redemption':
      return { kind: 'redemption', words: `Deleted by its registrar: in redemption${by}.` };
    case 'pending-delete':
      return { kind: 'pending-delete', words: `Nobody restored it: pending delete${by}.` };
    case 'free':
      return { kind: 'dropped', words: `Dropped: available${by}.` };
    case 'not-registrable':
      return { kind: 'not-registrable', words: 'The registry holds it back now.' };
    case 'active':
      if (before === 'auto-renew') return { kind: 'renewed-late', words: `Renewed after its expiry${until}.` };
      if (before === 'free') return { kind: 'registered-anew', words: `Registered by somebody${until}.` };
      return { kind: 'restored', words: `Its owner has it back out of ${wordsOf(before)}${until}.` };
  }
}

function addServers(was: string[], is: string[], add: Add): void {
  const key = (servers: string[]) => [...servers].sort().join(', ');
  if (was.length === 0 || key(was) === key(is)) return;
  if (is.length === 0) add('name-servers', `Its name servers are gone; they were ${key(was)}.`);
  else if (is.some(isParkingServer) && !was.some(isParkingServer))
    add('parked', `Its name servers are now those of a parking service: ${key(is)}.`);
  else add('name-servers', `Its name servers are ${key(is)} instead of ${key(was)}.`);
}

function isNewRegistration(was: RegistrationRecord | null, is: RegistrationRecord | null): boolean {
  if (!was?.registeredAt || !is?.registeredAt) return false;
  return is.registeredAt > was.registeredAt + DAY;
}

function wordsOf(phase: LifePhase): string {
  return { 'auto-renew': 'the auto-renew period', 'pending-delete': 'pending delete' }[phase as string] ?? phase;
}
