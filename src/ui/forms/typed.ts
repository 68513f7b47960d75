import { z } from 'zod';
import { readAmount } from '../../core/money/typed-amount';
import { count } from '../../core/wording/format';

/** Words of a field, parted by commas, semicolons or white space. */
export const wordsOf = (text: string): string[] => text.split(/[\s,;]+/).filter(Boolean);

/** Lines of a field, without empty ones. */
export const linesOf = (text: string): string[] =>
  text
    .split(/[\r\n]+/)
    .map((line) => line.trim())
    .filter(Boolean);

/** What is typed as words parted by commas or spaces. */
export const words = z.string().transform(wordsOf);

/** What is typed one a line. */
export const lines = z.string().transform(linesOf);

/** What is typed and read by a function of ours, whose error is shown at the field. */
export const readBy = <Value>(read: (text: string) => Value) =>
  z.string().transform((text, context): Value => {
    try {
      return read(text);
    } catch (error) {
      context.addIssue({ code: 'custom', message: (error as Error).message });
      return z.NEVER;
    }
  });

const say = (what: string) => what.charAt(0).toUpperCase() + what.slice(1);

/** An amount in minor units; null where the field is empty. */
export const amount = (what = 'the amount') =>
  readBy((text) => {
    const minor = readAmount(text);
    if (minor === undefined) throw new Error(`${say(what)} is no amount: write it as 500 or 500.50.`);
    return minor;
  });

/** An amount in minor units that must be there. */
export const someAmount = (what = 'the amount') =>
  readBy((text) => {
    const minor = readAmount(text);
    if (!minor) throw new Error(`Write ${what} as 140 or 140.50.`);
    return minor;
  });

interface Bounds {
  least?: number;
  most?: number;
  /** Only whole ones. */
  isWhole?: boolean;
}

function readNumber(text: string, { least = 0, most = Number.MAX_SAFE_INTEGER, isWhole = false }: Bounds): number {
  const value = Number(text.trim().replace(',', '.'));
  if (Number.isNaN(value)) throw new Error(`"${text.trim().slice(0, 30)}" is no number.`);
  if (value < least || value > most)
    throw new Error(
      most === Number.MAX_SAFE_INTEGER ? `At least ${least}.` : `A number from ${least} to ${count(most)}.`,
    );
  if (isWhole && !Number.isInteger(value)) throw new Error('A whole number.');
  return value;
}

/** A number; null where the field is empty. */
export const numberOrNone = (bounds: Bounds = {}) =>
  readBy((text) => (text.trim() === '' ? null : readNumber(text, bounds)));

/** A number that must be there. */
export const number = (bounds: Bounds = {}) =>
  readBy((text) => {
    if (text.trim() === '') throw new Error('Write a number.');
    return readNumber(text, bounds);
  });

/** A day, `2026-11-26`, as its first moment in UTC, ms since 1970; null where the field is empty. */
export const day = readBy((text) => {
  if (text === '') return null;
  const at = Date.parse(text);
  if (Number.isNaN(at)) throw new Error('Write the day as 2026-11-26.');
  return at;
});

/** Text that must be there. */
export const text = (message: string) => z.string().trim().min(1, message);

/**
 * What is typed, held against the contract of the call that it goes with: what the server would refuse is said at its field before it is
 * sent. What is sent is what was typed, read; the server reads it by the same contract.
 */
export function sentBy<Typed extends z.ZodType, Sent>(
  typed: Typed,
  contract: z.ZodType<unknown, Sent> & ([z.output<Typed>] extends [Sent] ? unknown : never),
) {
  return typed.transform((value, context) => {
    const read = contract.safeParse(value);
    if (read.success) return value;
    for (const { path, message } of read.error.issues) context.addIssue({ code: 'custom', path: [...path], message });
    return z.NEVER;
  });
}
