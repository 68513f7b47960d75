import { createHmac } from 'node:crypto';
import type { Logger } from 'pino';
import { z } from 'zod';
import { displayName } from '../../core/names/domain';
import { kindsBy, type News, type NewsKind, webhookBody } from '../../core/news/news';
import type { Settings } from '../../core/settings/settings';
import { HttpClient } from '../../net/http';
import { newsSince } from '../../services/news/news';
import type { Store } from '../../store/base/database';
import { publicAddress } from '../../store/base/reach';
import { keepValue, readKept, readSettings } from '../../store/base/settings';
import { sendMail } from './mail';

/** Until when each way has told, and what went wrong the last time; ms since 1970 UTC of the store's clock. */
const Told = z.object({
  until: z.number(),
  /** The kinds that were chosen then. */
  kinds: z.string(),
  /** Not tried before; 0: at once. */
  nextAt: z.number(),
  failures: z.number(),
  problem: z.string().nullable(),
});
type Told = z.infer<typeof Told>;
const ToldByWay = z.object({ mail: Told, webhook: Told });

const EVERY_MS = 20_000;
/** Mails are not sent more often. */
const MAIL_EVERY_MS = 15 * 60_000;
const FIRST_RETRY_MS = 60_000;
const LONGEST_RETRY_MS = 60 * 60_000;
/** What could not be told for so long is not news any more. */
const OLD_MS = 2 * 86_400_000;
const ANSWER_MS = 15_000;

/** Tells what happened by mail and webhook, as it is chosen for each kind. What was not taken is told again, later and later. */
export class Teller {
  private isBusy = false;
  private lookAt = 0;

  constructor(
    private readonly store: Store,
    private readonly log: Pick<Logger, 'error' | 'warn'>,
  ) {}

  /** One turn of the clock. */
  turn(): void {
    if (this.isBusy || performance.now() < this.lookAt) return;
    this.lookAt = performance.now() + EVERY_MS;
    this.isBusy = true;
    void this.tell()
      .catch((error: Error) => this.log.error({ err: error }, 'news could not be told'))
      .finally(() => {
        this.isBusy = false;
      });
  }

  /** Tells what is new now. */
  async tell(): Promise<void> {
    const settings = readSettings(this.store);
    await this.by('webhook', settings, settings.webhookUrl !== '', 0, (news) => this.callWebhook(settings, news));
    await this.by('mail', settings, settings.smtpUrl !== '', MAIL_EVERY_MS, (news) => this.mailNews(settings, news));
  }

  private async by(
    way: 'mail' | 'webhook',
    settings: Settings,
    isSet: boolean,
    pauseMs: number,
    send: (news: News[]) => Promise<void>,
  ): Promise<void> {
    const { store } = this;
    const now = store.now();
    const told = readTold(store)?.[way];
    const kinds = isSet ? kindsBy(settings.tells, way) : [];
    const afresh = fresh(now, kinds);
    // what happened before it was chosen is not told, nor what a clock that was set back has not come to yet
    const isOther = !told || told.kinds !== afresh.kinds || told.until > now;
    if (isOther || kinds.length === 0) {
      if (isOther || told.problem !== null) this.keep(way, afresh);
      return;
    }
    if (told.nextAt > now) return;
    const news = newsSince(store, Math.max(told.until, now - OLD_MS), kinds);
    if (news.length === 0) {
      // it need not be written each time that nothing happens
      if (told.until < now - MAIL_EVERY_MS || told.problem !== null) this.keep(way, afresh);
      return;
    }
    try {
      await send(news);
      this.keep(way, { ...afresh, nextAt: now + pauseMs });
    } catch (error) {
      const failures = told.failures + 1;
      const retryMs = Math.min(LONGEST_RETRY_MS, FIRST_RETRY_MS * 2 ** (failures - 1));
      this.log.warn({ way, failures, error: (error as Error).message }, 'news were not taken');
      this.keep(way, { ...told, nextAt: now + retryMs, failures, problem: (error as Error).message });
    }
  }

  private keep(way: 'mail' | 'webhook', told: Told): void {
    const none = fresh(this.store.now(), []);
    keepValue(this.store, KEY, { mail: none, webhook: none, ...readTold(this.store), [way]: told });
  }

  private async callWebhook(settings: Settings, news: News[]): Promise<void> {
    await postWebhook(this.store, settings, webhookBody(news, publicAddress(process.env), this.store.now()));
  }

  private async mailNews(settings: Settings, news: News[]): Promise<void> {
    const base = publicAddress(process.env);
    const lines = news.map(({ domain, words }) => `${displayName(domain)}\n  ${words}\n  ${base}/domains/${domain}`);
    const [{ domain }] = news;
    const more = news.length > 1 ? ` and ${news.length - 1} more` : '';
    await sendMail(settings, {
      from: settings.digestFrom,
      to: settings.digestTo,
      date: new Date(this.store.now()),
      subject: `${displayName(domain)}${more}`,
      text: `${lines.join('\n\n')}\n`,
    });
  }
}

const KEY = 'told';
const fresh = (now: number, kinds: readonly NewsKind[]): Told => ({
  until: now,
  kinds: kinds.join(),
  nextAt: 0,
  failures: 0,
  problem: null,
});
export const readTold = (store: Store) => readKept(store, KEY, ToldByWay);

/**
 * Sends a body to the webhook that is set, signed where it has a secret: `X-Jam-Ladle-Signature: sha256=` and, in hex, the HMAC (RFC 2104) of the
 * time in `X-Jam-Ladle-Timestamp` (seconds since 1970), a point and the body.
 *
 * @throws with a message for people when it does not answer with 2xx.
 */
export async function postWebhook(
  store: Store,
  settings: Settings,
  body: string,
  timeoutMs = ANSWER_MS,
): Promise<string> {
  const { webhookUrl, webhookSecret, allowedPrivate, userAgent } = settings;
  const http = new HttpClient({ userAgent, allowedPrivate, connector: store.config.connector, timeoutMs });
  const timestamp = String(Math.floor(Date.now() / 1000));
  const signature = createHmac('sha256', webhookSecret).update(`${timestamp}.${body}`).digest('hex');
  try {
    const { status, body: said } = await http.get(webhookUrl, {
      method: 'POST',
      body,
      headers: {
        'content-type': 'application/json',
        'x-jam-ladle-timestamp': timestamp,
        ...(webhookSecret !== '' && { 'x-jam-ladle-signature': `sha256=${signature}` }),
      },
      maxBodyBytes: 64 * 1024,
    });
    if (status < 200 || status >= 300)
      throw new WebhookRefusal(`${new URL(webhookUrl).host} answered ${status}`, status);
    return `HTTP ${status}\n\n${said.toString('utf8').slice(0, 1000)}`.trim();
  } finally {
    await http.close();
  }
}

/** It is there, and did not take it. */
export class WebhookRefusal extends Error {
  constructor(
    message: string,
    readonly status: number,
  ) {
    super(message);
  }
}
