import { z } from 'zod';
import type { CsvProblem } from '../formats/csv';
import type { Sheet } from '../formats/sheets/sheet';
import type { LanguageOf } from '../history/language';
import { readRegistryDate } from '../lifecycle/registry-date';
import { asciiName } from '../lifecycle/sentences';
import { registrableDomain } from '../names/domain';
import type { NameWords } from '../names/name-words';

/** What kinds need beside their line: tables that are read when they are first asked for. */
export interface JudgeTools {
  /** Words of English and languages asked for, ISO 639-1; of others where they suit a name much better. */
  nameWords(languages: readonly string[]): NameWords;
  /** Language of a text, ISO 639-1; null: it cannot be told. */
  languageOf: LanguageOf;
  /** The tables of a file, and rows of it that could not be read. */
  sheetsOf(bytes: Uint8Array): Promise<{ sheets: Sheet[]; problems: CsvProblem[] }>;
}

/** A kind of question that the judge command answers: how a line is read, and what comes of it, or a promise of that. `clock` counts where no time is given. */
export interface Kind<Input> {
  input: z.ZodType<Input>;
  judge(input: Input, clock: number, tools: JudgeTools): object;
}

export const Domain = z.string().transform((text, context) => {
  const name = asciiName(text.trim());
  const found = registrableDomain(name);
  if (found) return found;
  // an ending that the list does not know yet
  if (/^[a-z0-9-]+(\.[a-z0-9-]+)+$/.test(name)) return { name, ending: name.slice(name.indexOf('.') + 1) };
  context.addIssue({ code: 'custom', message: `"${text.slice(0, 80)}" is no registrable domain` });
  return z.NEVER;
});
/** The form that needs no reading. */
const ISO = /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d+)?Z$/;
/** ISO 8601, UTC where no zone is given, as ms since 1970; null and missing mean that it is not known. */
export const Time = z
  .string()
  .nullish()
  .transform((text, context) => {
    if (text === null || text === undefined || text === '') return null;
    const plain = ISO.test(text) ? Date.parse(text) : Number.NaN;
    const at = Number.isNaN(plain) ? readRegistryDate(text, false) : plain;
    if (at !== null) return at;
    context.addIssue({ code: 'custom', message: `"${text.slice(0, 40)}" is no time of ISO 8601` });
    return z.NEVER;
  });
export const Text = z.string().nullish();

export function kind<Input>(
  input: z.ZodType<Input>,
  judge: (input: Input, clock: number, tools: JudgeTools) => object,
): Kind<never> {
  return { input, judge } as unknown as Kind<never>;
}

export function iso(at: number | null): string | null {
  return at === null ? null : new Date(at).toISOString();
}
