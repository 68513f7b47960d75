import { z } from 'zod';
import { REGISTRAR_OUTCOMES, type RegistrarOutcome } from '../core/lifecycle/phase';
import { NetError } from './errors';
import type { HttpClient } from './http';
import { retryAfterMs } from './pacer';

/**
 * A registrar's answer, in the product's own open format (docs/registrar.md): GET `{base}?domain=name` gives JSON with the domain,
 * whether it would be registered now, and a price in minor units.
 */
const Answer = z.object({
  domain: z.string(),
  availability: z.enum(REGISTRAR_OUTCOMES).exclude(['refused', 'failed']),
  priceMinor: z.number().int().min(0).nullable().default(null),
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/)
    .nullable()
    .default(null),
});

export interface RegistrarAnswer {
  outcome: RegistrarOutcome;
  priceMinor: number | null;
  currency: string | null;
  server: string;
  detail: string;
  elapsedMs: number;
  /** How long the server wants to be left alone, ms; null: it does not say. */
  retryAfterMs: number | null;
  /** Why there is no answer, where its protocol tells that apart. */
  fault?: 'refused' | 'nonsense' | 'silent';
}

/** Asks a registrar whether it would register a domain, one question. Never throws but when the signal aborts. */
export async function askRegistrar(
  http: HttpClient,
  base: string,
  name: string,
  signal?: AbortSignal,
): Promise<RegistrarAnswer> {
  const url = new URL(base);
  url.searchParams.set('domain', name);
  const server = url.host;
  const none = { priceMinor: null, currency: null, server, elapsedMs: 0, retryAfterMs: null };
  try {
    const { status, headers, body, elapsedMs } = await http.get(url.href, { accept: 'application/json', signal });
    if (status === 429 || status === 503) {
      const wait = retryAfterMs(headers['retry-after'], Date.now());
      return { ...none, outcome: 'refused', detail: `HTTP ${status}`, elapsedMs, retryAfterMs: wait };
    }
    if (status !== 200) return { ...none, outcome: 'failed', detail: `HTTP ${status}`, elapsedMs };
    return { ...none, ...readRegistrar(body.toString('utf8'), name), elapsedMs };
  } catch (error) {
    if (!(error instanceof NetError) || error.code === 'stopped') throw error;
    return { ...none, outcome: 'failed', detail: error.message };
  }
}

/** Reads an answer; one about another domain is none. */
export function readRegistrar(
  text: string,
  name: string,
): Pick<RegistrarAnswer, 'outcome' | 'priceMinor' | 'currency' | 'detail'> {
  const failed = (detail: string) => ({ outcome: 'failed' as const, priceMinor: null, currency: null, detail });
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return failed('the answer is no JSON');
  }
  const parsed = Answer.safeParse(value);
  if (!parsed.success) return failed('the answer is none of a registrar');
  const { domain, availability, priceMinor, currency } = parsed.data;
  if (domain.toLowerCase() !== name) return failed(`the answer is about ${domain.slice(0, 80)}`);
  const price = priceMinor === null ? '' : `, ${(priceMinor / 100).toFixed(2)} ${currency ?? ''}`.trimEnd();
  return { outcome: availability, priceMinor, currency, detail: `${availability}${price}` };
}
