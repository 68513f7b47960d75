import { z } from 'zod';

/** What an address may have behind its question mark, by name. A field that is a list may stand there several times. */
export type QueryFields = Record<string, z.ZodType>;

const empty = (value: unknown) => (value === '' ? undefined : value);

/** The number of something kept; absent: as its meaning says. */
export const idOf = (meaning: string) =>
  z
    .preprocess(empty, z.coerce.number({ error: 'a number is wanted' }).int().min(0).max(1e15).optional())
    .describe(meaning);

/** A whole number from 0, which stands for `fallback` where it is absent; more than `most` is as much. */
export const countOf = (meaning: string, fallback: number, most = 1e15) =>
  z
    .preprocess(
      empty,
      z.coerce
        .number({ error: 'a number is wanted' })
        .int()
        .min(0)
        .transform((count) => Math.min(most, count))
        .default(fallback),
    )
    .describe(meaning);

/** Text, cut at `most` characters; absent or empty: `fallback`. */
export const textOf = (meaning: string, fallback: string, most = 120) =>
  z
    .preprocess(
      (value) => empty(value) ?? fallback,
      z.string().transform((text) => text.slice(0, most)),
    )
    .describe(meaning);

/** One of some words; absent: the first of them. */
export const choiceOf = <const Words extends readonly [string, ...string[]]>(meaning: string, words: Words) =>
  z
    .enum(words)
    .default(words[0] as never)
    .describe(meaning);

/** Some of some words, by commas; absent: all of them. */
export const choicesOf = <const Words extends readonly [string, ...string[]]>(meaning: string, words: Words) =>
  z
    .string()
    .default(words.join(','))
    .transform((text) => text.split(','))
    .pipe(z.array(z.enum(words)))
    .describe(`${meaning}: ${words.join(', ')}, by commas`);

/** Texts by commas; absent: null. */
export const listOf = (meaning: string) =>
  z
    .string()
    .transform((text) => text.split(',').filter(Boolean))
    .nullable()
    .default(null)
    .describe(meaning);

/** What may stand several times. */
export const repeatable = (meaning: string) => z.array(z.string()).describe(meaning);

/** What programs that read feeds give instead of a cookie. */
export const FEED_KEY = z.string().optional().describe('The key that opens feeds alone (GET /feeds/key)');

/** Reads what stands in an address. @throws ZodError with the name of the field that makes no sense. */
export function readQuery(fields: QueryFields, asked: URLSearchParams): Record<string, unknown> {
  const given = Object.entries(fields).map(([name, field]) => [
    name,
    field instanceof z.ZodArray ? asked.getAll(name) : (asked.get(name) ?? undefined),
  ]);
  return z.object(fields).parse(Object.fromEntries(given));
}
