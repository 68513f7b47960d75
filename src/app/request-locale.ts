import { AsyncLocalStorage } from 'node:async_hooks';
import { subscribe } from 'node:diagnostics_channel';
import { IncomingMessage } from 'node:http';
import { z } from 'zod';
import { DEFAULT_LOCALE, LOCALE_COOKIE, localeOf, tellLocaleBy } from '../core/wording/locale';

const Started = z.object({ request: z.instanceof(IncomingMessage) });
const CHOSEN = new RegExp(`(?:^|;\\s*)${LOCALE_COOKIE}=([\\w-]{2,35})`);

/** What leaves as a file reads the same for everybody: exports, feeds, calendars, and tables in a format. */
const FILE = /^\/api\/[^?]*\/(file|feed|calendar|export)(\?|$)|^\/api\/[^?]*\?(.*&)?format=/;

/** Whatever this process answers over HTTP from now on is written in the locale of who asks, through all that it waits for. */
export function tellLocaleOfRequests(): void {
  const asked = new AsyncLocalStorage<string>();
  subscribe('http.server.request.start', (message) => {
    const { headers, url = '' } = Started.parse(message).request;
    const chosen = CHOSEN.exec(headers.cookie ?? '')?.[1];
    asked.enterWith(FILE.test(url) ? DEFAULT_LOCALE : localeOf(headers['accept-language'], chosen));
  });
  tellLocaleBy(() => asked.getStore());
}
