import { mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createTransport, type SendMailOptions } from 'nodemailer';
import type { Logger } from 'pino';
import { displayName } from '../../core/names/domain';
import type { Settings } from '../../core/settings/settings';
import { nextDaily } from '../../core/time/daily';
import type { Store } from '../../store/base/database';
import { publicAddress } from '../../store/base/reach';
import { readSettings } from '../../store/base/settings';
import { type DomainRow, readDomains } from '../../store/domains/domains';
import { recentEvents, type StoredEvent } from '../../store/lifecycle/verdicts';
import { outcomesSince } from '../../store/orders/order-log';
import { type DigestState, keepDigest, listSieves, newHits, readDigest } from '../../store/pool/sieves';
import { sendMail } from './mail';

/** Domains of one sieve that a digest names; of more it says the number. */
const NAMED = 30;
const MOST_HITS = 10_000;
const MOST_EVENTS = 200;

export interface DigestPart {
  sieve: string;
  view: string;
  total: number;
  rows: DomainRow[];
}

/** Makes the daily digest of what is new in kept sieves: a mail file in the outbox, sent as well where a mail server is set. */
export class Digest {
  private isBusy = false;

  constructor(
    private readonly store: Store,
    private readonly log: Logger,
  ) {}

  /** Makes it when its time has come. */
  turn(): void {
    const { digestMinute } = readSettings(this.store);
    if (digestMinute === null || this.isBusy) return;
    const now = this.store.now();
    const state = readDigest(this.store);
    if (!state || state.nextAt > nextDaily(digestMinute, now)) {
      keepDigest(this.store, { at: now, problem: null, file: null, ...state, nextAt: nextDaily(digestMinute, now) });
      return;
    }
    if (state.nextAt > now) return;
    this.isBusy = true;
    void this.make(state.at)
      .catch((error: Error) => this.log.error({ err: error }, 'the digest could not be made'))
      .finally(() => {
        this.isBusy = false;
      });
  }

  /** Makes a digest of what came after `since`, now. @returns its state afterwards. */
  async make(since: number): Promise<DigestState> {
    const { store } = this;
    const settings = readSettings(store);
    const at = store.now();
    const parts = digestParts(store, since);
    const events = settings.digestEvents ? happenings(store, since) : [];
    const state: DigestState = { at, nextAt: nextDaily(settings.digestMinute ?? 0, at), problem: null, file: null };
    const links = publicAddress(process.env);
    const mail = {
      from: settings.digestFrom,
      to: settings.digestTo,
      date: new Date(at),
      subject: subjectOf(parts, events.length),
      text: textOf(parts, events, since, links),
      html: htmlOf(parts, events, since, links),
    };
    state.file = `${new Date(at).toISOString().slice(0, 16).replace(/[T:]/g, '-')}.eml`;
    await writeMail(join(store.folder, 'outbox'), state.file, mail);
    if (settings.smtpUrl !== '') state.problem = await send(settings, mail);
    keepDigest(store, state);
    return state;
  }
}

async function writeMail(folder: string, file: string, mail: object): Promise<void> {
  mkdirSync(folder, { recursive: true });
  const { message } = await createTransport({ streamTransport: true, buffer: true, newline: 'windows' }).sendMail(mail);
  const path = join(folder, file);
  writeFileSync(`${path}.new`, message as Buffer);
  renameSync(`${path}.new`, path);
}

/** @returns what went wrong, in words; null: it was taken. */
async function send(settings: Settings, mail: SendMailOptions): Promise<string | null> {
  try {
    await sendMail(settings, mail);
    return null;
  } catch (error) {
    return `The mail server did not take the digest: ${(error as Error).message}`;
  }
}

/** Something that happened to a name, in words. */
type Happening = Pick<StoredEvent, 'at' | 'name' | 'words'>;

/** What happened to watched and shortlisted names, and what came of orders, the latest first. */
function happenings(store: Store, since: number): Happening[] {
  const orders = outcomesSince(store, since, MOST_EVENTS).map(({ words, venue, ...line }) => ({
    ...line,
    words: `${words[0].toUpperCase()}${words.slice(1)} (${venue}).`,
  }));
  return [...orders, ...recentEvents(store, since, MOST_EVENTS)].sort((a, b) => b.at - a.at);
}

/** What came new into sieves that are in the digest. */
export function digestParts(store: Store, since: number): DigestPart[] {
  return listSieves(store).flatMap(({ id, name, view, inDigest }) => {
    if (!inDigest) return [];
    const hits = newHits(store, id, since, MOST_HITS);
    if (hits.length === 0) return [];
    const rows = readDomains(
      store,
      hits.slice(0, NAMED).map(({ domainId }) => domainId),
    );
    return [{ sieve: name, view, total: hits.length, rows }];
  });
}

function subjectOf(parts: DigestPart[], events: number): string {
  const total = parts.reduce((sum, part) => sum + part.total, 0);
  const said: string[] = [];
  if (total > 0)
    said.push(`${total.toLocaleString('en')} new in ${parts.length === 1 ? parts[0].sieve : `${parts.length} sieves`}`);
  if (events > 0) said.push(`${events.toLocaleString('en')} ${events === 1 ? 'change' : 'changes'} of your names`);
  return said.join(', ') || 'Nothing new';
}

const nothingSince = (since: number) =>
  since === 0 ? 'Nothing is new in your sieves.' : `Nothing is new in your sieves since ${utc(since)}.`;
const pageOf = (links: string, { name }: { name: string }) => `${links}/domains/${name}`;
const sieveLink = (links: string, { view }: DigestPart) => `${links}/pool?${view}`;

/** What is known of a domain, in a line. */
function factsOf(row: DomainRow): string {
  const facts: string[] = [row.phase];
  if (row.referring_domains !== null) facts.push(`${row.referring_domains} referring domains`);
  if (row.strength !== null) facts.push(`strength ${Math.round(row.strength)}`);
  if (row.trust !== null) facts.push(`trust ${Math.round(row.trust)}`);
  if (row.spam_risk !== null) facts.push(`spam risk ${row.spam_risk}`);
  if (row.price_minor !== null) facts.push(`${(row.price_minor / 100).toFixed(2)} ${row.currency ?? ''}`.trim());
  if (row.closing_at !== null)
    facts.push(`closes ${new Date(row.closing_at).toISOString().slice(0, 16).replace('T', ' ')} UTC`);
  return facts.join(', ');
}

function textOf(parts: DigestPart[], events: Happening[], since: number, links: string): string {
  const happened = events.map(
    (event) => `  ${displayName(event.name)}\n    ${event.words} Seen ${utc(event.at)}.\n    ${pageOf(links, event)}`,
  );
  const watched = happened.length > 0 ? `Watched, shortlisted and ordered names\n${happened.join('\n')}\n` : '';
  return [watched, ...sieveTexts(parts, links)].filter(Boolean).join('\n') || `${nothingSince(since)}\n${links}/\n`;
}

const utc = (at: number) => `${new Date(at).toISOString().slice(0, 16).replace('T', ' ')} UTC`;

function sieveTexts(parts: DigestPart[], links: string): string[] {
  return parts.map((part) => {
    const { sieve, total, rows } = part;
    const lines = rows.map((row) => `  ${displayName(row.name)}\n    ${factsOf(row)}\n    ${pageOf(links, row)}`);
    if (total > rows.length) lines.push(`  and ${total - rows.length} more`);
    return `${sieve}: ${total} new\n${sieveLink(links, part)}\n${lines.join('\n')}\n`;
  });
}

const escapeHtml = (text: string) =>
  text.replace(/[&<>"]/g, (mark) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[mark] ?? mark);

const link = (href: string, words: string) =>
  `<a style="color:#6b2346" href="${escapeHtml(href)}">${escapeHtml(words)}</a>`;

function htmlOf(parts: DigestPart[], events: Happening[], since: number, links: string): string {
  const happened = events.map(
    (event) =>
      `<tr><td style="padding:3px 16px 3px 0"><b>${link(pageOf(links, event), displayName(event.name))}</b></td><td>${escapeHtml(event.words)} <span style="color:#5b4c50">Seen ${utc(event.at)}</span></td></tr>`,
  );
  const watched =
    happened.length > 0
      ? `<h2 style="font-size:18px;margin:20px 0 6px">Watched, shortlisted and ordered names</h2><table cellspacing="0">${happened.join('')}</table>`
      : '';
  const sections = parts.map((part) => {
    const { sieve, total, rows } = part;
    const lines = rows.map(
      (row) =>
        `<tr><td style="padding:3px 16px 3px 0"><b>${link(pageOf(links, row), displayName(row.name))}</b></td><td style="color:#5b4c50">${escapeHtml(factsOf(row))}</td></tr>`,
    );
    const rest = total > rows.length ? `<p>and ${total - rows.length} more</p>` : '';
    return `<h2 style="font-size:18px;margin:20px 0 6px">${link(sieveLink(links, part), sieve)}: ${total} new</h2><table cellspacing="0">${lines.join('')}</table>${rest}`;
  });
  return `<!doctype html><html lang="en"><body style="font-family:sans-serif;font-size:14px;color:#2b2027;background:#fcf9f3">${watched}${sections.join('')}${parts.length + events.length === 0 ? `<p>${nothingSince(since)} ${link(`${links}/`, 'Open Jam Ladle')}</p>` : ''}</body></html>`;
}
