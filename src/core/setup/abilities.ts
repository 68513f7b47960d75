import { type ConnectionUse, connectionFor } from '../connections/connection';
import { venuesTaking } from '../orders/takers';
import type { Settings } from '../settings/settings';
import { eppRegistrar, withoutKeys } from '../settings/settings';
import type { Purpose } from './purposes';

/** Abilities whose service can be asked a question. */
export const TRIED = [
  'dns',
  'records',
  'history',
  'registrar',
  'accounts',
  'marks',
  'search',
  'mail',
  'webhook',
] as const;
export type TriedAbility = (typeof TRIED)[number];

/** What the product can do with services outside of it; the others are judged by what is there. */
export const ABILITIES = [...TRIED, 'venues', 'backlinks', 'currency'] as const;
export type Ability = (typeof ABILITIES)[number];

export interface AbilitySpec {
  label: string;
  /** What it tells, or does. */
  does: string;
  /** The settings that it goes by, the one first that names the service. */
  fields: readonly (keyof Settings)[];
  /** Settings that are kept with them and change nothing of how it answers. */
  also?: readonly (keyof Settings)[];
  /** What it takes where it is not set. */
  takes: string;
  /** What it is needed for. */
  purposes: readonly Purpose[];
  /** What is asked when it is tried; null: nothing has to be said. */
  question: { label: string; kind: 'domain' | 'words' } | null;
}

export const ABILITY_SPECS: Record<Ability, AbilitySpec> = {
  dns: {
    label: 'DNS',
    does: 'Whether a name is delegated, and to which servers: the first sign that it is taken.',
    fields: ['resolvers', 'asksEndings', 'allowedPrivate'],
    takes: 'A resolver of this machine, or one that you name.',
    purposes: ['list', 'sites', 'referrers', 'backlinks', 'register'],
    question: { label: 'Domain to ask about', kind: 'domain' },
  },
  records: {
    label: 'Registration data',
    does: 'When a name was registered and expires, its status, its drop date; without it no name is called free.',
    fields: ['rdapBootstrap', 'registryIntervalMs', 'allowedPrivate'],
    takes: 'The list of RDAP servers (RFC 9224), and a way out to port 443 and port 43 for WHOIS.',
    purposes: ['list', 'sites', 'referrers', 'backlinks', 'register', 'bid'],
    question: { label: 'Domain to ask about', kind: 'domain' },
  },
  history: {
    label: 'History',
    does: 'Which pages a name once had, and when: its age in the archive, its subject, a site to bring back.',
    fields: ['archiveTimeMap', 'archiveCapture', 'warcPath', 'allowedPrivate'],
    takes:
      'The address of a web archive: of its TimeMaps (Memento, RFC 7089), or of its index of captures (CDX); or files of one (WARC).',
    purposes: ['rebuild', 'redirect', 'sell', 'register', 'bid'],
    question: { label: 'Domain to ask about', kind: 'domain' },
  },
  registrar: {
    label: 'Registrar',
    does: 'Whether a name can be registered now, and for how much: the last word on a premium or reserved name.',
    fields: ['registrar', 'allowedPrivate'],
    takes:
      'A registrar that you describe, one that answers as docs/registrar.md says, or an account by EPP that registers free names.',
    purposes: ['register', 'logins'],
    question: { label: 'Domain to ask about', kind: 'domain' },
  },
  accounts: {
    label: 'Orders',
    does: 'Bids and registrations sent from here. Without it you place them by hand.',
    fields: ['accounts', 'registrarAccount', 'isDryRun', 'allowedPrivate'],
    takes:
      'A venue or a registrar that you describe, an account there that takes orders as docs/venue-orders.md says, or one by EPP, with its key.',
    purposes: ['bid', 'register', 'logins', 'sell'],
    question: { label: 'Domain to ask the terms of', kind: 'domain' },
  },
  marks: {
    label: 'Trademarks',
    does: 'Trademarks like a name, before money is spent on it.',
    fields: ['markRegister', 'allowedPrivate'],
    takes: 'A register that you describe, or the address of one that answers as docs/mark-register.md says.',
    purposes: ['sell', 'register', 'bid'],
    question: { label: 'Words to look for', kind: 'words' },
  },
  search: {
    label: 'Search',
    does: 'Pages that a phrase finds, as sites to crawl and as places that may link.',
    fields: ['searchEngine', 'searchPage', 'allowedPrivate'],
    takes: 'A search that you describe, or the OpenSearch description of one that answers with Atom.',
    purposes: ['sites', 'redirect'],
    question: { label: 'Phrase to search for', kind: 'words' },
  },
  mail: {
    label: 'Mail',
    does: 'The digest of what is new, sent to you. Without it, it is written into the outbox folder only.',
    fields: ['smtpUrl', 'smtpPassword', 'digestFrom', 'digestTo', 'allowedPrivate'],
    also: ['digestMinute'],
    takes: 'A mail server, and a login where it wants one.',
    purposes: ['told'],
    question: null,
  },
  webhook: {
    label: 'Webhook',
    does: 'What happens, sent as JSON to an address of yours as it happens, signed.',
    fields: ['webhookUrl', 'webhookSecret', 'allowedPrivate'],
    takes: 'An address that takes JSON by POST, and a secret that it knows.',
    purposes: ['told'],
    question: null,
  },
  venues: {
    label: 'Venues',
    does: 'What is on offer, at what price and until when, read again by itself.',
    fields: ['connections'],
    takes: 'The address of a feed of listings, or a venue that you describe.',
    purposes: ['bid', 'logins', 'rebuild', 'redirect', 'sell'],
    question: null,
  },
  backlinks: {
    label: 'Backlink data',
    does: 'Links, referring domains, visits and keywords that an index counts, beside what is measured here.',
    fields: ['connections'],
    takes: 'An export of links as a file, or an index that you describe, which is asked for figures.',
    purposes: ['backlinks', 'referrers', 'rebuild', 'redirect'],
    question: null,
  },
  currency: {
    label: 'Currencies',
    does: 'Prices in one currency. A price without a rate counts as unknown and passes no condition on prices.',
    fields: ['currency', 'rates'],
    takes: 'A rate for each currency that your sources quote.',
    purposes: ['bid', 'register', 'sell', 'logins'],
    question: null,
  },
};

/** Abilities that a described service may have; it is asked instead of what is set otherwise. */
export const DESCRIBED = {
  registrar: 'registrar',
  marks: 'marks',
  search: 'search',
  accounts: 'orders',
  venues: 'listings',
  backlinks: 'figures',
} as const satisfies Partial<Record<Ability, ConnectionUse>>;

/** What described service may have an ability; null: none. */
export const describedUse = (ability: Ability): ConnectionUse | null =>
  ability in DESCRIBED ? DESCRIBED[ability as keyof typeof DESCRIBED] : null;

/** The settings that an ability goes by, as text without keys: what was tried counts for as long as this stays. */
export function setBy(ability: Ability, settings: Settings): string {
  const shown = withoutKeys(settings);
  const use = describedUse(ability);
  const described = use === null ? null : connectionFor(shown.connections, use);
  const epp = ability === 'registrar' && described === null ? eppRegistrar(shown) : null;
  return JSON.stringify([
    ...ABILITY_SPECS[ability].fields.map((field) => shown[field]),
    ...(described ? [described] : []),
    ...(epp ? [epp] : []),
  ]);
}

/** Whether nothing is set that could be asked. */
export function isUnset(ability: TriedAbility, settings: Settings): boolean {
  switch (ability) {
    // the system's resolvers are asked where none are named
    case 'dns':
      return false;
    case 'records':
      return settings.rdapBootstrap === '';
    case 'history':
      return settings.archiveTimeMap === '' && settings.warcPath === '';
    case 'registrar':
      return (
        settings.registrar === '' &&
        connectionFor(settings.connections, 'registrar') === null &&
        eppRegistrar(settings) === null
      );
    case 'accounts':
      return venuesTaking(settings).length === 0;
    case 'marks':
      return settings.markRegister === '' && connectionFor(settings.connections, 'marks') === null;
    case 'search':
      return settings.searchEngine === '' && connectionFor(settings.connections, 'search') === null;
    case 'mail':
      return settings.smtpUrl === '';
    case 'webhook':
      return settings.webhookUrl === '';
  }
}
