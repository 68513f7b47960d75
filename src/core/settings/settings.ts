import { z } from 'zod';
import { Connection, originOf } from '../connections/connection';
import { readContacts, readEppAddress } from '../epp/account';
import { type LifePolicy, LONGEST_STAGE_DAYS } from '../lifecycle/policies';
import type { Rates } from '../listings/rates';
import { NO_TELLS, Tells } from '../news/news';
import { PURPOSE_NAMES } from '../setup/purposes';

export const HostPort = z.string().regex(/^(\[[0-9a-f:]+\]|[a-z0-9.-]+):\d{1,5}$/i, 'write it as host:port');
const Cidr = z.string().regex(/^[0-9a-f.:]+(\/\d{1,3})?$/i, 'write it as an address or 127.0.0.0/8');

const DaysPair = z
  .tuple([z.number().int().min(0).max(LONGEST_STAGE_DAYS), z.number().int().min(0).max(LONGEST_STAGE_DAYS)])
  .refine(([shortest, longest]) => shortest <= longest, 'the shortest comes first');
const Policy = z.object({
  ending: z.string().regex(/^(\*|[a-z0-9-]+(\.[a-z0-9-]+)*)$/, 'an ending is written like org or co.uk'),
  autoRenewDays: DaysPair,
  redemptionDays: DaysPair,
  pendingDeleteDays: DaysPair,
  dropHours: z
    .tuple([z.number().int().min(0).max(23), z.number().int().min(1).max(24)])
    .refine(([from, to]) => from < to, 'the drop hours end after they begin'),
  dropWeekdays: z.array(z.number().int().min(0).max(6)).max(7).optional(),
  isExpiryMoved: z.boolean(),
  basis: z.enum(['documented', 'recalled', 'assumed']).optional(),
  marginDays: z.number().min(0).max(60).optional(),
  reference: z.string().max(500),
}) satisfies z.ZodType<LifePolicy>;

const Currency = z.string().regex(/^[A-Z]{3}$/, 'a currency is written like EUR');

export const VenueAccount = z.object({
  venue: z.string().min(1).max(120),
  /** Of an account in the product's own format, or `epp://login@host:700`. */
  address: z
    .string()
    .max(1000)
    .refine(
      (text) => (/^https?:\/\//.test(text) && URL.canParse(text)) || readEppAddress(text) !== null,
      'an http address, or epp://login@host:700',
    ),
  /** Sent as a bearer token, or by EPP as the password; never shown. */
  key: z.string().max(500),
  currency: Currency,
  /** Handles that names are registered for by EPP. */
  contacts: z
    .string()
    .max(200)
    .refine((text) => readContacts(text) !== null, 'one handle, or registrant=H1 admin=H2 tech=H3')
    .optional(),
  /** Servers that a name registered by EPP leads to. */
  nameServers: z
    .array(z.string().regex(/^([a-z0-9-]+\.)+[a-z0-9-]+$/i, 'a server is written like ns1.example.org'))
    .max(13)
    .optional(),
  /** A PEM file for EPP: the certificate that its server knows us by, with the key, or that of its authority. */
  certificate: z.string().max(2000).optional(),
});
export type VenueAccount = z.infer<typeof VenueAccount>;

/** What a person can change on the settings screen; the rest comes with the configuration file. */
export const Settings = z.object({
  userAgent: z.string().min(3).max(300).default('JamLadle/0.1 (crawls politely, obeys robots.txt)'),
  /** Pause between two requests to one host. */
  crawlDelayMs: z.number().int().min(0).max(600_000).default(1000),
  /** A crawl ends by itself when the engine takes more memory than this. */
  crawlMemoryMb: z.number().int().min(64).max(1_000_000).default(3000),
  /** A crawl ends by itself when the disk has less space than this; 0: it goes on until the disk is full, and rests there. */
  diskFloorMb: z.number().int().min(0).max(10_000_000).default(500),
  /** How many of the copies are kept that are made by themselves, one a day; 0: none are made. */
  copiesKept: z.number().int().min(0).max(365).default(7),
  /** Private addresses that may be reached. */
  allowedPrivate: z.array(Cidr).max(100).default([]),
  /** Recursive resolvers; empty: the system's. */
  resolvers: z.array(HostPort).max(10).default([]),
  /** Address or path of the RDAP bootstrap file (RFC 9224). */
  rdapBootstrap: z.string().max(1000).default('https://data.iana.org/rdap/dns.json'),
  /** Pause between two questions to one registry. */
  registryIntervalMs: z.number().int().min(0).max(3_600_000).default(1000),
  /** Pauses of single servers that are known to want others, ms by host. */
  paces: z.record(z.string().max(253), z.number().int().min(0).max(86_400_000)).default({}),
  /** Whether the servers of an ending are asked themselves; else resolvers only. */
  asksEndings: z.boolean().default(true),
  /** Address of a registrar that says whether it would register a domain (docs/registrar.md); empty: none. */
  registrar: z
    .string()
    .max(1000)
    .refine((text) => text === '' || (/^https?:\/\//.test(text) && URL.canParse(text)), 'an http address')
    .default(''),
  /** Grace periods of endings where they differ from the published ones. */
  policies: z.array(Policy).max(500).default([]),
  /** Days and hours are shown in this zone, IANA; everything is kept in UTC. */
  timeZone: z
    .string()
    .max(100)
    .refine((zone) => isTimeZone(zone), 'a time zone is written like Europe/Vienna')
    .default('UTC'),
  /** How long before a deadline the calendar reminds, minutes. */
  reminderMinutes: z.number().int().min(0).max(40_320).default(60),
  /** The user's currency, ISO 4217. */
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/, 'a currency is written like EUR')
    .default('EUR'),
  /** What one unit of other currencies is worth in it. */
  rates: z
    .record(z.string().regex(/^[A-Z]{3}$/, 'a currency is written like EUR'), z.number().positive().max(1e9))
    .default({}),
  /** The day that the rates are of, ms since 1970 UTC; null: they were typed, and no day was said. */
  ratesAt: z.number().int().nullable().default(null),
  /** What the person begins with and is after: what set-up puts first. */
  purposes: z.array(z.enum(PURPOSE_NAMES)).max(PURPOSE_NAMES.length).default([]),
  /** Address of the OpenSearch description of the search that phrases go to; empty: none. */
  searchEngine: z
    .string()
    .max(1000)
    .refine((text) => text === '' || /^https?:\/\//.test(text), 'an http address')
    .default(''),
  /** Address of the page of a search that a person opens, with `{words}`; empty: none. */
  searchPage: z
    .string()
    .max(1000)
    .refine(
      (address) => address === '' || (/^https?:\/\//.test(address) && address.includes('{words}')),
      'an http address that holds {words}',
    )
    .default(''),
  /** When the digest of what is new in kept sieves is made, minutes after midnight UTC; null: not. */
  digestMinute: z.number().int().min(0).max(1439).nullable().default(null),
  /** Whether the digest tells what happened to watched and shortlisted names. */
  digestEvents: z.boolean().default(true),
  digestFrom: z.string().max(200).default('Jam Ladle <jam-ladle@localhost>'),
  digestTo: z.string().max(200).default('me@localhost'),
  /** Which news reach the person by which ways. */
  tells: Tells.default(NO_TELLS),
  /** Where news are sent as JSON; empty: nowhere. */
  webhookUrl: z
    .string()
    .max(1000)
    .refine((text) => text === '' || (/^https?:\/\//.test(text) && URL.canParse(text)), 'an http address')
    .default(''),
  /** What they are signed by; never shown. */
  webhookSecret: z.string().max(500).default(''),
  /** Mail server that sends the digest, `smtp://user@host:port` or smtps://; empty: it is only written into the outbox. */
  smtpUrl: z
    .string()
    .max(500)
    .refine((text) => text === '' || (/^smtps?:\/\//.test(text) && URL.canParse(text)), 'write it as smtp://host:port')
    .default(''),
  /** Its password; never shown. */
  smtpPassword: z.string().max(500).default(''),
  /** Which source's count of links is sorted by: together, largest, newest, or `source:` and a name. */
  countRule: z.string().max(300).default('together'),
  /** Sources that differ in referring domains by more than this factor are flagged. */
  countFactor: z.number().min(1).max(1000).default(3),
  /** Requests a day that measuring may cost. */
  measureBudget: z.number().int().min(0).max(100_000_000).default(20_000),
  /** What a domain must have before its costly measures are taken, unless somebody asks for them. */
  measureGate: z
    .object({ leastReferring: z.number().int().min(0).max(1e9), mostSpamRisk: z.number().int().min(0).max(100) })
    .default({ leastReferring: 3, mostSpamRisk: 70 }),
  /** Address of a trademark register that finds trademarks like a name (docs/mark-register.md); empty: none. */
  markRegister: z
    .string()
    .max(1000)
    .refine((text) => text === '' || (/^https?:\/\//.test(text) && URL.canParse(text)), 'an http address')
    .default(''),
  /** Orders are written down and not sent. */
  isDryRun: z.boolean().default(true),
  /** Where orders go, by venue (docs/venue-orders.md); a venue without one is dealt with by hand. */
  accounts: z.array(VenueAccount).max(50).default([]),
  /** Services that are described (docs/connections.md). */
  connections: z
    .array(Connection)
    .max(50)
    .refine((all) => new Set(all.map(({ id }) => id)).size === all.length, 'each has an id of its own')
    .default([]),
  /** Which account registers free names; empty: none, it is done by hand. */
  registrarAccount: z.string().max(120).default(''),
  /** What the orders of one day may cost together, in minor units of the currency; null: no limit. */
  dayLimitMinor: z.number().int().min(0).max(1e12).nullable().default(100_000),
  /** What a registration usually costs by TLD, `*` for all others, in minor units of the currency. */
  registrationPrices: z
    .record(
      z.string().regex(/^(\*|[a-z0-9-]+(\.[a-z0-9-]+)*)$/, 'a TLD is written like org or co.uk'),
      z.number().int().min(0).max(1e10),
    )
    .default({}),
  /** How sure one is to be the first where a price is just paid: assumed, until outcomes say better. */
  chances: z
    .object({
      buyNow: z.number().min(0.01).max(0.99),
      falling: z.number().min(0.01).max(0.99),
      free: z.number().min(0.01).max(0.99),
      backorder: z.number().min(0.01).max(0.99),
    })
    .default({ buyNow: 0.9, falling: 0.8, free: 0.95, backorder: 0.4 }),
  /** By how much ranges of worth are widened, as a power of their factor; 1: as they come. */
  rangeFactor: z.number().min(0.3).max(5).default(1),
  /** Address by which an index of captures hands one out, with `{timestamp}` and `{url}`; empty: its captures are not read. */
  archiveCapture: z
    .string()
    .max(1000)
    .refine(
      (address) => address === '' || (/^https?:\/\//.test(address) && /\{timestamp\}.*\{url\}/.test(address)),
      'an http address that holds {timestamp} and {url}',
    )
    .default(''),
  /** A file of a web archive (WARC), or a folder of them; empty: none. */
  warcPath: z.string().max(2000).default(''),
  /** Address of a Memento archive’s TimeMaps, or of an index of captures (CDX), with `{url}`; empty: none. */
  archiveTimeMap: z
    .string()
    .max(1000)
    .refine(
      (text) => text === '' || (/^https?:/.test(text) && text.includes('{url}')),
      'an http address that holds {url}',
    )
    .default(''),
});
export type Settings = z.infer<typeof Settings>;

/** What settings were called once. They may be called so for good, where they come from files or calls. */
const OLD_NAMES = { desks: 'accounts', registrarDesk: 'registrarAccount' } as const satisfies Record<
  string,
  keyof Settings
>;

/** Settings under the names that they have now; what is there under both counts under the new one. */
export function withNewNames<S extends object>(given: S): Omit<S, keyof typeof OLD_NAMES> {
  const named: Record<string, unknown> = Object.fromEntries(Object.entries(given));
  for (const [old, now] of Object.entries(OLD_NAMES)) {
    if (old in named && !(now in named)) named[now] = named[old];
    delete named[old];
  }
  return named as Omit<S, keyof typeof OLD_NAMES>;
}

/** Settings under both their names, for who asks by the old ones. */
export function withOldNames<S extends Pick<Settings, 'accounts' | 'registrarAccount'>>(settings: S) {
  return { ...settings, desks: settings.accounts, registrarDesk: settings.registrarAccount };
}

/** Settings as they may be shown: keys of accounts and connections and the password of the mail server are left out. */
export function withoutKeys<S extends Partial<Settings>>(settings: S): S {
  const { accounts, connections, smtpUrl, smtpPassword, webhookSecret } = settings;
  return {
    ...settings,
    ...(accounts && { accounts: accounts.map((account) => ({ ...account, key: '' })) }),
    ...(connections && { connections: connections.map((one) => ({ ...one, key: '', password: '' })) }),
    ...(smtpUrl !== undefined && { smtpUrl: mailServerOf(smtpUrl).server }),
    ...(smtpPassword !== undefined && { smtpPassword: '' }),
    ...(webhookSecret !== undefined && { webhookSecret: '' }),
  };
}

/**
 * A change of settings with the keys that it leaves empty as they are kept: an account has its key for as long as it has its address, a
 * connection for as long as it asks the same server, a mail server its password, and a webhook its secret.
 */
export function withKeptKeys(change: Partial<Settings>, before: Settings): Partial<Settings> {
  const kept = { ...change };
  if (change.accounts)
    kept.accounts = change.accounts.map((account) => {
      const same = before.accounts.find(({ venue, address }) => venue === account.venue && address === account.address);
      return account.key !== '' ? account : { ...account, key: same?.key ?? '' };
    });
  if (change.connections)
    kept.connections = change.connections.map((one) =>
      withKeptSecrets(
        one,
        before.connections.find(({ id }) => id === one.id),
      ),
    );
  if (change.smtpUrl !== undefined || change.smtpPassword !== undefined) {
    const { server, password } = mailServerOf(change.smtpUrl ?? before.smtpUrl);
    const isSame = server === mailServerOf(before.smtpUrl).server;
    kept.smtpUrl = server;
    kept.smtpPassword = change.smtpPassword || password || (isSame ? before.smtpPassword : '');
  }
  if (change.webhookUrl !== undefined || change.webhookSecret !== undefined) {
    const isSame = (change.webhookUrl ?? before.webhookUrl) === before.webhookUrl;
    kept.webhookSecret = change.webhookSecret || (isSame ? before.webhookSecret : '');
  }
  return kept;
}

/** A connection with the secrets that it leaves empty as they were kept, if it asks the same server as then. */
export function withKeptSecrets(
  one: Connection,
  before: Pick<Connection, 'address' | 'key' | 'password'> | undefined,
): Connection {
  if (!before || originOf(before) !== originOf(one)) return one;
  return { ...one, key: one.key || before.key, password: one.password || before.password };
}

/** The address of a mail server without the password that may be written in it. */
export function mailServerOf(smtpUrl: string): { server: string; password: string } {
  if (smtpUrl === '' || !URL.canParse(smtpUrl)) return { server: smtpUrl, password: '' };
  const url = new URL(smtpUrl);
  if (url.password === '') return { server: smtpUrl, password: '' };
  const password = decodeURIComponent(url.password);
  url.password = '';
  return { server: url.href, password };
}

function isTimeZone(zone: string): boolean {
  try {
    new Intl.DateTimeFormat('en', { timeZone: zone });
    return true;
  } catch {
    return false;
  }
}

/** The account that registers free names, where it speaks EPP: it says, too, whether a name can be registered. null: none does. */
export function eppRegistrar({ accounts, registrarAccount }: Pick<Settings, 'accounts' | 'registrarAccount'>) {
  const account = accounts.find(({ venue }) => venue === registrarAccount);
  return account && readEppAddress(account.address) ? account : null;
}

export function ratesOf({ currency, rates }: Settings): Rates {
  return { home: currency, worth: rates };
}
