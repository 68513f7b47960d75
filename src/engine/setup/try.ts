import { connectionFor } from '../../core/connections/connection';
import { masked, secretsOf } from '../../core/connections/template';
import { plainText } from '../../core/formats/plain-text';
import type { RegistrationRecord } from '../../core/lifecycle/phase';
import { registrableDomain } from '../../core/names/domain';
import { webhookBody } from '../../core/news/news';
import { Refusal } from '../../core/refusal';
import { eppRegistrar, type Settings } from '../../core/settings/settings';
import { ABILITY_SPECS, isUnset, setBy, type TriedAbility } from '../../core/setup/abilities';
import type { Tried, TryOutcome } from '../../core/setup/tried';
import { money, plural } from '../../core/wording/format';
import { ArchiveClient } from '../../net/archive';
import { DnsClient } from '../../net/dns';
import { NetError } from '../../net/errors';
import { Pacer } from '../../net/pacer';
import { RdapClient, type RecordAnswer } from '../../net/rdap';
import { WhoisClient } from '../../net/whois';
import { resolversOf } from '../../store/base/config';
import type { Store } from '../../store/base/database';
import { publicAddress } from '../../store/base/reach';
import { warcCapturesOf, warcFiles } from '../../store/links/warc';
import { marksOf, registrarOf, searchOf } from '../connections/services';
import { openWarc, readWarcRecord, warcFilesAt } from '../history/warc-files';
import { sendMail } from '../notify/mail';
import { postWebhook, WebhookRefusal } from '../notify/teller';
import { type Asking, type Found, failedBy, fieldOf, REFUSING } from './asking';
import { cut, HeardHttp } from './heard-http';
import { askAccounts } from './try-accounts';

const ANSWER_MS = 15_000;
const DNS_MS = 2000;
const RESULTS = 10;
const NAMED = 3;
const KEPT_CHARACTERS = 3000;

/**
 * Asks the service that an ability goes by one real question, and says what came of it. Never throws for what the other side does; nothing
 * is kept.
 *
 * @param settings those to try, also where they are not kept yet.
 * @param question a domain or words, as the ability asks for; of mail nothing.
 * @param timeoutMs how long one answer may take.
 * @throws Refusal when the question makes no sense.
 */
export async function tryAbility(
  store: Store,
  ability: TriedAbility,
  settings: Settings,
  question: string,
  signal: AbortSignal,
  timeoutMs = ANSWER_MS,
): Promise<Tried> {
  const { userAgent, allowedPrivate } = settings;
  const { connector } = store.config;
  const asked = readQuestion(ability, question);
  const http = new HeardHttp({ userAgent, connector, allowedPrivate, timeoutMs });
  const started = performance.now();
  try {
    const found = isUnset(ability, settings)
      ? unset(ability)
      : await ASK[ability]({ store, settings, http, question: asked, signal, timeoutMs });
    return {
      ability,
      at: store.now(),
      elapsedMs: Math.round(performance.now() - started),
      setBy: setBy(ability, settings),
      ...found,
      came: cut(found.came ?? http.heard, KEPT_CHARACTERS),
    };
  } finally {
    await http.close();
  }
}

function readQuestion(ability: TriedAbility, question: string): string {
  const { question: wanted } = ABILITY_SPECS[ability];
  if (wanted === null) return '';
  const text = question.trim();
  if (wanted.kind === 'words') {
    if (text === '') throw new Refusal('makes-no-sense', `${wanted.label}: say some.`);
    return text;
  }
  const domain = registrableDomain(text);
  if (!domain) throw new Refusal('makes-no-sense', `“${text.slice(0, 80)}” is no domain that can be registered.`);
  return domain.name;
}

const unset = (ability: TriedAbility): Found => ({
  outcome: 'unset',
  asked: '',
  understood: [],
  problem: { field: ABILITY_SPECS[ability].fields[0], words: ABILITY_SPECS[ability].takes },
});

const ASK: Record<TriedAbility, (asking: Asking) => Promise<Found>> = {
  dns: askDns,
  records: askRecords,
  history: askHistory,
  registrar: askForPrice,
  accounts: askAccounts,
  marks: askMarks,
  search: askSearch,
  mail: sendTest,
  webhook: callWebhook,
};

async function askDns({ store, settings, question, timeoutMs }: Asking): Promise<Found> {
  const { asksEndings, allowedPrivate } = settings;
  const resolvers = resolversOf(settings);
  const dns = new DnsClient({
    resolvers,
    timeoutMs: Math.min(DNS_MS, timeoutMs),
    tries: 2,
    connector: store.config.dns.connector,
    asksEndings,
    allowedPrivate,
  });
  try {
    const { outcome, server, nameServers, detail } = await dns.delegation(question);
    const whom = `${asksEndings ? 'the servers of its ending and ' : ''}${resolvers.join(', ') || 'no resolver'}`;
    const asked = `To which servers is ${question} delegated? (NS, asked of ${whom})`;
    const came = [detail, ...nameServers.map((name) => `${question} NS ${name}`)].join('\n');
    const words = {
      delegated: `${question} is delegated to ${nameServers.slice(0, NAMED).join(', ')}, says ${server}.`,
      nxdomain: `There is no ${question} in DNS, says ${server}.`,
      'no-delegation': `${question} is delegated to no server, says ${server}.`,
    };
    if (outcome !== 'failed') return { outcome: 'works', asked, came, understood: [words[outcome]], problem: null };
    const isLiar = detail.includes('names that do not exist');
    return {
      outcome: isLiar ? 'nonsense' : /REFUSED|SERVFAIL/.test(detail) ? 'refused' : 'silent',
      asked,
      came,
      understood: [],
      problem: { field: 'resolvers', words: `No answer that can be used: ${detail}${server ? `, of ${server}` : ''}.` },
    };
  } finally {
    dns.close();
  }
}

async function askRecords({ store, settings, http, question, signal, timeoutMs }: Asking): Promise<Found> {
  const { rdapBootstrap, allowedPrivate } = settings;
  const ending = question.slice(question.indexOf('.') + 1);
  const heard: string[] = [];
  const rdap = new RdapClient(http, rdapBootstrap);
  const whois = new WhoisClient({
    ...store.config.whois,
    allowedPrivate,
    timeoutMs,
    heard: (server, text) => heard.push(`WHOIS ${server}\n\n${cut(text, 1500)}`),
  });
  const whoHas = `Who has the record of ${question}, and what does it say?`;
  let base: string | null;
  try {
    base = await rdap.serverFor(ending);
  } catch (error) {
    const asked = `${whoHas} (the list of RDAP servers, ${rdapBootstrap})`;
    const isFile = !(error instanceof NetError);
    const words = isFile ? `There is no such file: ${(error as Error).message}` : (error as Error).message;
    return { ...failedBy(http, 'rdapBootstrap', words), asked };
  }
  let server: string | null = base;
  let answer: RecordAnswer | null = null;
  if (base !== null) answer = await rdap.domain(base, question, false, signal);
  else {
    try {
      server = await whois.serverFor(ending, signal);
    } catch (error) {
      const asked = `${whoHas} (the server that tells who has the WHOIS of .${ending})`;
      const { message } = error as Error;
      return { outcome: 'silent', asked, understood: [], problem: { field: fieldOf(message, null), words: message } };
    }
    if (server !== null) answer = await whois.domain(server, question, signal);
  }
  const protocol = base === null ? 'WHOIS' : 'RDAP';
  const asked = `${whoHas} (${server === null ? 'nobody is known' : `${protocol}, ${server}`})`;
  const came = [http.heard, ...heard].filter(Boolean).join('\n\n');
  if (answer === null) {
    const words = `Neither RDAP nor WHOIS is known for .${ending}; try a name under another ending.`;
    return { outcome: 'nonsense', asked, came, understood: [], problem: { field: null, words } };
  }
  const understood = recordWords(question, answer);
  if (understood.length > 0) return { outcome: 'works', asked, came, understood, problem: null };
  const words = answer.words ?? answer.detail;
  const isNo = answer.outcome === 'refused' || REFUSING.has(http.status);
  const outcome = answer.isDropped ? 'silent' : isNo ? 'refused' : 'nonsense';
  return { outcome, asked, came, understood: [], problem: { field: fieldOf(words, null), words } };
}

/** What a record says, in sentences; none: it is no answer. */
function recordWords(name: string, { outcome, record, words, isUnproven }: RecordAnswer): string[] {
  if (outcome === 'found' && record) return [`${name} is registered.`, ...factsOf(record)];
  if (outcome === 'not-found' || isUnproven)
    return [
      `It has no record of ${name}.`,
      ...(isUnproven ? ['That counts once it has answered for a name that exists: try one.'] : []),
    ];
  if (outcome === 'withheld') return [`${name} is not to be registered: ${words}.`];
  if (outcome === 'premium') return [`${name} has a price of its own: ${words}.`];
  return [];
}

const date = (at: number) => new Date(at).toISOString().slice(0, 10);

function factsOf({ registrar, registeredAt, expiresAt, statuses, nameServers }: RegistrationRecord): string[] {
  return [
    ...(registrar ? [`Registrar: ${registrar}.`] : []),
    ...(registeredAt === null ? [] : [`Registered on ${date(registeredAt)}.`]),
    ...(expiresAt === null ? [] : [`Expires on ${date(expiresAt)}.`]),
    ...(statuses.length > 0 ? [`Status: ${statuses.join(', ')}.`] : []),
    ...(nameServers.length > 0 ? [`Name servers: ${nameServers.slice(0, NAMED).join(', ')}.`] : []),
  ];
}

async function askHistory({ store, settings, http, question, signal }: Asking): Promise<Found> {
  const { archiveTimeMap, archiveCapture } = settings;
  if (archiveTimeMap === '') return askFiles(store, settings, question);
  const asked = `Which captures are there of http://${question}/? (${archiveTimeMap})`;
  try {
    const pacer = new Pacer({ intervalMs: 5, maxIntervalMs: 5000 });
    const archive = new ArchiveClient(http, pacer, archiveTimeMap, archiveCapture);
    const { mementos, partial } = await archive.timeMap(`http://${question}/`, signal);
    if (mementos.length === 0) {
      const words = `It answered ${http.status} and names no capture of ${question}: it never had one, or this is no address of TimeMaps or of an index of captures. Try a name that was surely captured.`;
      return { outcome: 'nonsense', asked, understood: [], problem: { field: 'archiveTimeMap', words } };
    }
    const span = `from ${date(mementos[0].at)} to ${date(mementos[mementos.length - 1].at)}`;
    return {
      outcome: 'works',
      asked,
      understood: [
        `${plural(mementos.length, 'capture')} of ${question}, ${span}${partial ? ', and more' : ''}.`,
        await readOne(archive, mementos[mementos.length - 1].url, signal),
      ],
      problem: null,
    };
  } catch (error) {
    return { ...failedBy(http, 'archiveTimeMap', (error as Error).message), asked };
  }
}

/** What the files of web archives hold, as far as they were read. */
async function askFiles(store: Store, { warcPath }: Settings, question: string): Promise<Found> {
  const asked = `Which captures of ${question} are in the files? (${warcPath})`;
  const wrong = (outcome: TryOutcome, words: string): Found => ({
    outcome,
    asked,
    understood: [],
    problem: { field: 'warcPath', words },
  });
  const paths = await warcFilesAt(warcPath).catch((error: Error) => error);
  if (paths instanceof Error) return wrong('silent', `They cannot be read: ${paths.message}.`);
  if (paths.length === 0) return wrong('nonsense', 'No file there ends in .warc or .warc.gz.');
  const file = await openWarc(paths[0]);
  try {
    const record = await readWarcRecord(file, 0, 1000).catch((error: Error) => error);
    if (record === null || record instanceof Error)
      return wrong('nonsense', `${paths[0]} is no WARC file: ${record?.message ?? 'it is empty'}.`);
    const read = warcFiles(store);
    const captures = warcCapturesOf(store, question);
    const known = read.reduce((sum, one) => sum + one.captures, 0);
    return {
      outcome: 'works',
      asked,
      came: `${record.head.type} ${record.head.uri}\n\n${cut(record.block.toString('latin1'), 600)}`,
      understood: [
        `${plural(paths.length, 'file')}; the first begins with a record of the kind ${record.head.type}.`,
        known === 0
          ? 'They were not read yet: “Read the files” finds out what is in them.'
          : `${plural(known, 'capture')} in what was read, ${plural(captures.length, 'one', 'of them')} of ${question}.`,
      ],
      problem: null,
    };
  } finally {
    await file.close();
  }
}

/** Whether a capture can be read: that the archive counts them is of use without it, too. */
async function readOne(archive: ArchiveClient, url: string, signal: AbortSignal): Promise<string> {
  if (url === '')
    return 'They are counted only: say by which address a capture is handed out, and their pages are read, too.';
  try {
    const { status, contentType } = await archive.capture(url, signal);
    return `The last of them is handed out: it answered ${status}${contentType === '' ? '' : `, ${contentType}`}.`;
  } catch (error) {
    return `The last of them is not handed out: ${(error as Error).message}.`;
  }
}

async function askForPrice({ settings, http, question, signal, timeoutMs }: Asking): Promise<Found> {
  const said: string[] = [];
  const service = registrarOf(http, settings, { timeoutMs, heard: (text) => said.push(cut(text, 1500)) });
  const asked = `Would ${question} be registered now, and for how much? (${whoIs('registrar', settings)})`;
  if (service === null) return unset('registrar');
  const { outcome, priceMinor, currency, detail, fault } = await service.ask(question, signal);
  await service.close?.();
  const came = said.join('\n\n') || shownOf('registrar', settings, http);
  if (outcome === 'refused' || outcome === 'failed') {
    const field = fault === undefined ? 'registrar' : 'accounts';
    const given = fault ?? (outcome === 'refused' ? 'refused' : undefined);
    return { ...failedBy(http, field, detail, given), asked, came };
  }
  const price = priceMinor === null ? '' : ` It costs ${money(priceMinor, currency)}.`;
  return { outcome: 'works', asked, came, understood: [`${question} is ${outcome}.${price}`], problem: null };
}

/** Who has an ability, by name or address. */
function whoIs(ability: 'registrar' | 'marks' | 'search', settings: Settings): string {
  const described = connectionFor(settings.connections, ability);
  const isByEpp = ability === 'registrar' && settings.registrar === '';
  return (
    described?.title ??
    (isByEpp ? eppRegistrar(settings)?.venue : undefined) ??
    String(settings[ABILITY_SPECS[ability].fields[0]])
  );
}

/** What came, without the secrets of who was asked. */
function shownOf(ability: 'registrar' | 'marks' | 'search', settings: Settings, http: HeardHttp): string {
  const described = connectionFor(settings.connections, ability);
  return described ? masked(http.heard, secretsOf(described)) : http.heard;
}

async function askMarks({ settings, http, question, signal }: Asking): Promise<Found> {
  const asked = `Which trademarks are like “${question}”? (${whoIs('marks', settings)})`;
  try {
    const marks = (await marksOf(http, settings)?.find(question, signal)) ?? [];
    const first = marks.slice(0, NAMED).map(({ mark, owner }) => (owner === '' ? mark : `${mark} of ${owner}`));
    const named = marks.length > 0 ? `, the first ${first.join('; ')}` : '';
    const understood = [`${plural(marks.length, 'trademark')}${named}.`];
    return { outcome: 'works', asked, came: shownOf('marks', settings, http), understood, problem: null };
  } catch (error) {
    const failed = failedBy(http, 'markRegister', (error as Error).message);
    return { ...failed, asked, came: shownOf('marks', settings, http) };
  }
}

async function askSearch({ settings, http, question, signal }: Asking): Promise<Found> {
  const asked = `Which pages are found for “${question}”? (${whoIs('search', settings)})`;
  try {
    const results = (await searchOf(http, settings)?.search(question, RESULTS, signal)) ?? [];
    const first = results.slice(0, NAMED).map(({ title, url }) => plainText(title || url, 80));
    const named = results.length > 0 ? `, the first ${first.join('; ')}` : ', in a feed as it should be';
    const understood = [`${plural(results.length, 'page')}${named}.`];
    return { outcome: 'works', asked, came: shownOf('search', settings, http), understood, problem: null };
  } catch (error) {
    const failed = failedBy(http, 'searchEngine', (error as Error).message);
    return { ...failed, asked, came: shownOf('search', settings, http) };
  }
}

/** Where the mail library found the fault, and what it means. */
const MAIL_FAULTS: Record<string, { outcome: TryOutcome; field: keyof Settings }> = {
  EAUTH: { outcome: 'refused', field: 'smtpPassword' },
  EENVELOPE: { outcome: 'refused', field: 'digestTo' },
  EMESSAGE: { outcome: 'refused', field: 'smtpUrl' },
  ETLS: { outcome: 'refused', field: 'smtpUrl' },
  EPROTOCOL: { outcome: 'nonsense', field: 'smtpUrl' },
};

async function sendTest({ store, settings, timeoutMs }: Asking): Promise<Found> {
  const { smtpUrl, digestFrom, digestTo } = settings;
  const asked = `Will you take a short mail to ${digestTo}? (${smtpUrl})`;
  try {
    const mail = {
      from: digestFrom,
      to: digestTo,
      date: new Date(store.now()),
      subject: 'A test mail of Jam Ladle',
      text: 'You asked Jam Ladle to try its mail server. It works: the digest comes this way.\n',
    };
    const came = await sendMail(settings, mail, timeoutMs);
    const understood = [`The server took a test mail to ${digestTo}. Whether it arrives, your mailbox says.`];
    return { outcome: 'works', asked, came, understood, problem: null };
  } catch (error) {
    const { code = '', message, response } = error as Error & { code?: string; response?: string };
    const { outcome, field } = MAIL_FAULTS[code] ?? { outcome: 'silent' as const, field: 'smtpUrl' as const };
    return {
      outcome,
      asked,
      came: response ?? '',
      understood: [],
      problem: { field: fieldOf(message, field), words: message },
    };
  }
}

async function callWebhook({ store, settings, timeoutMs }: Asking): Promise<Found> {
  const asked = `Will you take a test message? (${settings.webhookUrl})`;
  const test = { id: 'test', kind: 'changes' as const, at: store.now(), domain: 'example.org', words: 'You asked Jam Ladle to try its webhook.' }; // biome-ignore format: one line
  try {
    const body = webhookBody([test], publicAddress(process.env), store.now());
    const came = await postWebhook(store, settings, body, timeoutMs);
    const signed = settings.webhookSecret === '' ? 'It has no secret and was not signed.' : 'It was signed.';
    return { outcome: 'works', asked, came, understood: ['It took a test message.', signed], problem: null };
  } catch (error) {
    const { message } = error as Error;
    const status = error instanceof WebhookRefusal ? error.status : 0;
    const isNo = REFUSING.has(status) || (error instanceof NetError && error.code === 'private-address');
    const outcome = isNo ? 'refused' : status > 0 ? 'nonsense' : 'silent';
    return { outcome, asked, understood: [], problem: { field: fieldOf(message, 'webhookUrl'), words: message } };
  }
}
