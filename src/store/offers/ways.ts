import { type DnsOutcome, type RecordOutcome, type RegistrarOutcome, waysItIsFree } from '../../core/lifecycle/phase';
import { isOpen } from '../../core/listings/listing';
import { type RegistrationPrice, type Way, type WayTerms, wayOfListing, wayToRegister } from '../../core/orders/ways';
import type { Store } from '../base/database';
import { all, camel, columns, first, knex, known, pick } from '../base/query';
import { readSettings } from '../base/settings';
import type { DomainRow } from '../domains/domains';
import { saidFor } from '../lifecycle/verdicts';
import type { Brief } from '../shortlist/briefs';
import { listingsOf } from './listings';

const CHECKS = columns('checks');
const ORDERS = columns('orders', 'o');

const HAND_REGISTRAR = 'a registrar';
/** So many of the latest registrations of one's own make a usual price. */
const REGISTRATIONS = 7;

/** Who registers names: who is set for it, else the service that a person described for it, else by hand. */
export function registrarOf(store: Store): string {
  const { registrarAccount, connections } = readSettings(store);
  const described = connections.find(({ use, isOn, kinds }) => use === 'orders' && isOn && kinds.includes('register'));
  return registrarAccount || described?.venue || HAND_REGISTRAR;
}

/**
 * What it costs to register a name: what the registrar said of it last; else the middle of what registrations of its TLD cost the
 * person; else the usual price from Settings; else a year's renewal as the brief has it.
 */
export function registrationPrice(
  store: Store,
  { id, ending }: Pick<DomainRow, 'id' | 'ending'>,
  brief: Pick<Brief, 'renewalMinor' | 'currency'>,
): RegistrationPrice {
  const said = first(
    store,
    pick(knex('checks'), camel(CHECKS, 'outcome', 'price_minor', 'currency', 'at'))
      .where({ domain_id: id, step: 'registrar' })
      .whereIn('outcome', ['available', 'premium'])
      .orderBy([
        { column: 'at', order: 'desc' },
        { column: 'id', order: 'desc' },
      ])
      .limit(1),
  );
  const { currency: home, registrationPrices } = readSettings(store);
  if (said?.priceMinor != null) {
    const { priceMinor, currency, at, outcome } = said;
    return { priceMinor, currency: currency ?? home, says: 'registrar', isPremium: outcome === 'premium', at };
  }
  const own = all(
    store,
    pick(knex('orders as o').join('domains as d', 'd.id', 'o.domain_id'), {
      priceMinor: known(ORDERS.final_minor),
      currency: ORDERS.currency,
      at: ORDERS.ended_at,
    })
      .where({ 'o.kind': 'register', 'o.state': 'won', 'd.ending': ending })
      .whereNotNull('o.final_minor')
      .orderBy('o.ended_at', 'desc')
      .limit(REGISTRATIONS),
  );
  const usual = own.filter(({ currency }) => currency === own[0].currency);
  if (usual.length > 0) {
    const sorted = usual.map(({ priceMinor }) => priceMinor).sort((a, b) => a - b);
    const priceMinor = sorted[Math.floor(sorted.length / 2)];
    return { priceMinor, currency: usual[0].currency, says: 'own registrations', isPremium: false, at: usual[0].at };
  }
  const set = registrationPrices[ending] ?? registrationPrices['*'];
  if (set !== undefined) return { priceMinor: set, currency: home, says: 'settings', isPremium: false, at: null };
  return { priceMinor: brief.renewalMinor, currency: brief.currency, says: 'brief', isPremium: false, at: null };
}

/**
 * All ways to have a domain as they are known now: the open offers of all venues, and its registration where it is free. Not in order;
 * see `cheapestFirst`.
 */
export function knownWays(
  store: Store,
  domain: DomainRow,
  brief: Pick<Brief, 'renewalMinor' | 'currency'>,
  terms: WayTerms,
): Way[] {
  const now = store.now();
  const ways = listingsOf(store, domain.id)
    .filter((listing) => isOpen(listing, now))
    .map((listing) => wayOfListing(listing, now, terms));
  if (domain.phase === 'free')
    ways.push(wayToRegister(registrarOf(store), registrationPrice(store, domain, brief), now, null, terms.priced));
  return ways;
}

/** Two independent ways are wanted before a name counts as one to be registered: delegation and record, or the registrar. */
export function doubtOf(store: Store, domain: DomainRow): string | null {
  const { dns, record, registrar } = saidFor(store, domain);
  const ways = waysItIsFree({
    dns: dns as DnsOutcome | undefined,
    record: record === undefined ? undefined : { outcome: record as RecordOutcome, record: null },
    registrar: registrar === undefined ? undefined : { outcome: registrar as RegistrarOutcome },
  });
  return ways >= 2 ? null : 'only one way says that it is free: confirm it first';
}
