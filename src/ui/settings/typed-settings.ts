import { z } from 'zod';
import type { Answer } from '../../contracts/calls';
import { systemCalls } from '../../contracts/system';
import { typedAmount } from '../../core/money/typed-amount';
import { Tells } from '../../core/news/news';
import { amount, number, readBy, sentBy, words } from '../forms/typed';
import { minuteOf, pacesOf, pricesOf, ratesOf, timeOf } from './lines';

/** As the screens show them: under the names that they have now. */
export type SettingsView = Omit<Answer<'GET /settings'>, 'desks' | 'registrarDesk'>;

const whole = number({ isWhole: true });
const trimmed = z.string().trim();
const change = systemCalls['PATCH /settings'].body;

const fields = z.object({
  userAgent: trimmed,
  crawlDelayMs: whole,
  registryIntervalMs: whole,
  registrar: trimmed,
  markRegister: trimmed,
  countRule: z.string(),
  countFactor: number(),
  measureBudget: whole,
  measureGate: z.object({ leastReferring: whole, mostSpamRisk: whole }),
  asksEndings: z.boolean(),
  paces: readBy(pacesOf),
  timeZone: trimmed,
  reminderMinutes: whole,
  crawlMemoryMb: whole,
  diskFloorMb: whole,
  allowedPrivate: words,
  resolvers: words,
  rdapBootstrap: trimmed,
  archiveTimeMap: trimmed,
  archiveCapture: trimmed,
  warcPath: trimmed,
  searchEngine: trimmed,
  searchPage: trimmed,
  digestMinute: z.string().transform(minuteOf),
  digestEvents: z.boolean(),
  digestFrom: trimmed,
  digestTo: trimmed,
  smtpUrl: trimmed,
  smtpPassword: z.string(),
  webhookUrl: trimmed,
  webhookSecret: z.string(),
  tells: Tells,
  currency: trimmed.toUpperCase(),
  rates: readBy(ratesOf),
  registrationPrices: readBy(pricesOf),
});

/** What is typed into the settings, as the interface takes it; what each may be, the contract says. */
export const TypedSettings = sentBy(fields, change);

/** The same, with what is asked of a service when it is tried. */
export const TypedTry = sentBy(fields.extend({ question: trimmed }), change);

/** What belongs to EPP alone is left out where nothing stands in it. */
function withoutEmpty<T extends { contacts: string; nameServers: string[]; certificate: string }>(account: T) {
  const { contacts, nameServers, certificate, ...rest } = account;
  return {
    ...rest,
    contacts: contacts || undefined,
    nameServers: nameServers.length > 0 ? nameServers : undefined,
    certificate: certificate || undefined,
  };
}

/** A record as lines, `GBP 1.15`. */
const written = (record: Readonly<Record<string, number>>, say: (value: number) => string = String) =>
  Object.entries(record)
    .map(([key, value]) => `${key} ${say(value)}`)
    .join('\n');

/** Settings as they stand in their fields. */
export const typedSettings = (settings: SettingsView): z.input<typeof TypedSettings> => ({
  userAgent: settings.userAgent,
  crawlDelayMs: String(settings.crawlDelayMs),
  registryIntervalMs: String(settings.registryIntervalMs),
  registrar: settings.registrar,
  markRegister: settings.markRegister,
  countRule: settings.countRule,
  countFactor: String(settings.countFactor),
  measureBudget: String(settings.measureBudget),
  measureGate: {
    leastReferring: String(settings.measureGate.leastReferring),
    mostSpamRisk: String(settings.measureGate.mostSpamRisk),
  },
  asksEndings: settings.asksEndings,
  paces: written(settings.paces),
  timeZone: settings.timeZone,
  reminderMinutes: String(settings.reminderMinutes),
  crawlMemoryMb: String(settings.crawlMemoryMb),
  diskFloorMb: String(settings.diskFloorMb),
  allowedPrivate: settings.allowedPrivate.join(', '),
  resolvers: settings.resolvers.join(', '),
  rdapBootstrap: settings.rdapBootstrap,
  archiveTimeMap: settings.archiveTimeMap,
  archiveCapture: settings.archiveCapture,
  warcPath: settings.warcPath,
  searchEngine: settings.searchEngine,
  searchPage: settings.searchPage,
  digestMinute: timeOf(settings.digestMinute),
  digestEvents: settings.digestEvents,
  digestFrom: settings.digestFrom,
  digestTo: settings.digestTo,
  smtpUrl: settings.smtpUrl,
  smtpPassword: '',
  webhookUrl: settings.webhookUrl,
  webhookSecret: '',
  tells: settings.tells,
  currency: settings.currency,
  rates: written(settings.rates),
  registrationPrices: written(settings.registrationPrices, typedAmount),
});

/** What may be spent, and where orders go. */
export const TypedActing = sentBy(
  z.object({
    isDryRun: z.boolean(),
    dayLimitMinor: amount('the limit'),
    registrarAccount: z.string(),
    accounts: z
      .array(
        z.object({
          venue: trimmed,
          address: trimmed,
          key: z.string(),
          currency: trimmed.toUpperCase(),
          contacts: trimmed,
          nameServers: words,
          certificate: trimmed,
        }),
      )
      .transform((accounts) =>
        accounts.filter(({ venue, address }) => venue !== '' || address !== '').map(withoutEmpty),
      ),
  }),
  change,
);
