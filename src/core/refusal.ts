/**
 * Why something is not done: code decides on the code, people read the message. `status` is what the HTTP interface answers (RFC 9110,
 * section 15), `title` the kind of it in words.
 */
export const REFUSALS = {
  'makes-no-sense': { status: 400, title: 'The request makes no sense' },
  'no-key': { status: 401, title: 'The key is missing' },
  'scope-too-small': { status: 403, title: 'The token does not let do this' },
  'wrong-origin': { status: 403, title: 'Wrong origin' },
  'not-here': { status: 404, title: 'Not here' },
  conflict: { status: 409, title: 'It was not done' },
  'name-taken': { status: 409, title: 'The name is taken' },
  'changed-since': { status: 409, title: 'It cannot be undone any more' },
  'job-refused': { status: 409, title: 'The work was not done' },
  'page-unread': { status: 409, title: 'The page could not be read' },
  'order-refused': { status: 409, title: 'The order was not taken' },
  'over-limit': { status: 409, title: 'A limit does not allow it' },
  'sale-refused': { status: 409, title: 'It was not done' },
  'rules-refused': { status: 409, title: 'The rules cannot be followed' },
  'copy-refused': { status: 409, title: 'The copy cannot be restored' },
  'keys-sealed': { status: 409, title: 'The keys are sealed' },
  'too-few-marks': { status: 409, title: 'The points cannot be fitted' },
  'too-large': { status: 413, title: 'Too large' },
  'wrong-host': { status: 421, title: 'Wrong host' },
  damaged: { status: 500, title: 'The database is damaged' },
  broke: { status: 500, title: 'Something broke' },
  'engine-away': { status: 503, title: 'The engine does not answer' },
  full: { status: 507, title: 'The disk is full' },
} as const;
export type RefusalCode = keyof typeof REFUSALS;

/** What is wrong with one field of what was asked. */
export interface Issue {
  /** Path of the field, by dots; empty: the whole. */
  at: string;
  message: string;
}

/** Base of all errors that are told to whoever asked; `message` is a sentence for people. */
export class Refusal extends Error {
  /** What can be done about it. */
  readonly advice: string | null;
  readonly issues: readonly Issue[];

  constructor(
    readonly code: RefusalCode,
    message: string,
    more: ErrorOptions & { advice?: string | null; issues?: readonly Issue[] } = {},
  ) {
    super(message, more);
    this.name = new.target.name;
    this.advice = more.advice ?? null;
    this.issues = more.issues ?? [];
  }
}

/** What is wrong, as problem details (RFC 9457) and answers of the engine hold it. */
export interface RefusalTold {
  code: RefusalCode;
  message: string;
  advice: string | null;
  issues: readonly Issue[];
}

/** How an error is told: as itself where it is one for people, else as something that broke. */
export function refusalOf(error: unknown): RefusalTold {
  if (error instanceof Refusal) {
    const { code, message, advice, issues } = error;
    return { code, message, advice, issues };
  }
  return { code: 'broke', message: (error as Error).message, advice: null, issues: [] };
}
