import { type Connection, originOf } from '../../core/connections/connection';
import { readEppAddress } from '../../core/epp/account';
import type { Settings, VenueAccount } from '../../core/settings/settings';
import { money } from '../../core/wording/format';
import { EppAccount } from '../../net/epp-account';
import { askTerms } from '../../net/venue-account';
import { type Asking, type Found, failedBy, fieldOf } from './asking';
import { cut } from './heard-http';

/** Of what is said by EPP so much of each message is shown. */
const SAID_CHARACTERS = 1500;

/** Asks each account for the terms of a domain; nothing is ordered. */
export async function askAccounts({ settings, http, question, signal, timeoutMs }: Asking): Promise<Found> {
  const asked = `On what terms is ${question} to be had? (${settings.accounts.map(({ venue }) => venue).join(', ')}; nothing is ordered)`;
  const understood: string[] = [];
  // what somebody else says may hold the key that was sent
  const said: string[] = [];
  const came = () =>
    settings.accounts.reduce(
      (text, { key }) => (key === '' ? text : text.replaceAll(key, '…')),
      [http.heard, ...said].filter(Boolean).join('\n\n'),
    );
  const described = settings.connections.filter(({ use, isOn }) => use === 'orders' && isOn);
  understood.push(...described.map(describedWords));
  if (settings.accounts.length === 0) return { outcome: 'unset', asked: '', came: '', understood, problem: null };
  for (const account of settings.accounts) {
    if (readEppAddress(account.address)) {
      const found = await askByEpp(account, settings, question, signal, timeoutMs, (text) =>
        said.push(cut(text, SAID_CHARACTERS)),
      );
      understood.push(...found.understood);
      if (found.outcome !== 'works') return { ...found, understood, asked, came: came() };
      continue;
    }
    const reply = await askTerms(http, account, question, signal);
    if (reply.outcome === 'unknown' || reply.outcome === 'rejected') {
      const isNo = reply.outcome === 'rejected' || account.key === '';
      const words = `${account.venue}: ${reply.reason}`;
      return { ...failedBy(http, 'accounts', words, isNo ? 'refused' : undefined), understood, asked, came: came() };
    }
    if (reply.outcome === 'none') understood.push(`${account.venue} knows the key, and has no terms for ${question}.`);
    else {
      const { kind, state, priceMinor, currency } = reply.value;
      const price = priceMinor === null ? '' : `, ${money(priceMinor, currency)}`;
      understood.push(`${account.venue} has ${question} as ${kind}, ${state}${price}.`);
    }
  }
  return { outcome: 'works', asked, came: came(), understood, problem: null };
}

/** What a described service is there for: the only question it takes is an order. */
function describedWords(service: Connection): string {
  const how = service.isDry ? 'orders are only written down, with all that would be sent' : 'orders are sent';
  return `${service.venue}: ${service.kinds.join(', ')} at ${originOf(service)}; ${how}. Nothing is asked to try it: see what would be sent under Services you describe.`;
}

/** Whether a name can be registered, and where it is, who has it. */
async function askByEpp(
  account: VenueAccount,
  { allowedPrivate }: Settings,
  question: string,
  signal: AbortSignal,
  timeoutMs: number,
  heard: (text: string) => void,
): Promise<Omit<Found, 'asked'>> {
  const { venue, key } = account;
  if (key === '') {
    const words = `${venue}: its password is not here.`;
    return { outcome: 'refused', understood: [], problem: { field: 'accounts', words } };
  }
  const epp = new EppAccount(account, { allowedPrivate, timeoutMs, heard });
  try {
    const { outcome, priceMinor, currency, detail, fault } = await epp.availability(question, signal);
    if (fault) {
      const words = `${venue}: ${detail}`;
      return { outcome: fault, understood: [], problem: { field: fieldOf(words, 'accounts'), words } };
    }
    const price = priceMinor === null ? '' : `, ${money(priceMinor, currency)}`;
    const words = `${venue} lets you in; ${question} is ${outcome}${price}.`;
    const info = outcome === 'taken' ? await epp.info(question, signal) : null;
    const expires = info?.expiresAt == null ? '' : `, until ${new Date(info.expiresAt).toISOString().slice(0, 10)}`;
    const sponsor = info ? ` It is registered by ${info.sponsor}${expires}.` : '';
    return { outcome: 'works', understood: [`${words}${sponsor}`], problem: null };
  } finally {
    await epp.close();
  }
}
