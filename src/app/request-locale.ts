import { AsyncLocalStorage } from 'node:async_hooks';
import { subscribe } from 'node:diagnostics_channel';
import { IncomingMessage } from 'node:http';
import { z } from 'zod';
import { LOCALE_COOKIE, localeOf, tellLocaleBy } from '../core/wording/locale';

const Started = z.object({ request: z.instanceof(IncomingMessage) });
const CHOSEN = new RegExp(`(?:^|;\\s*)${LOCALE_COOKIE}=([\\w-]{2,35})`);

/** Whatever this process answers over HTTP from now on is written in the locale of who asks, through all that it waits for. */
export function tellLocaleOfRequests(): void {
  const asked = new AsyncLocalStorage<string>();
  subscribe('http.server.request.start', (message) => {
    const { headers } = Started.parse(message).request;
    asked.enterWith(localeOf(headers['accept-language'], CHOSEN.exec(headers.cookie ?? '')?.[1]));
  });
  tellLocaleBy(() => asked.getStore());
}
