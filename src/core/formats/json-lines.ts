import type { CsvProblem, CsvRow } from './csv';

/** Lines that can be had of a value: texts as they are, the rest as JSON writes it; null and what is absent are empty. */
function cellOf(value: unknown): string {
  if (value === null || value === undefined) return '';
  return typeof value === 'string' ? value : JSON.stringify(value);
}

/** Keys of the first objects in the order met: what stands for a header. Lines that are no object are passed over. */
export function jsonKeys(sample: string, lines = 50): string[] {
  const keys = new Set<string>();
  for (const line of sample.split('\n', lines)) {
    const value = objectOf(line);
    for (const key of Object.keys(value ?? {})) keys.add(key);
  }
  return [...keys];
}

/** Whether a file's start is JSON Lines: its first line that is not empty is a JSON object. */
export function looksLikeJsonLines(sample: string): boolean {
  const line = sample.replace(/^\ufeff/, '').match(/^\s*(\{.*)/)?.[1];
  return line !== undefined && objectOf(line) !== null;
}

function objectOf(line: string): Record<string, unknown> | null {
  if (
    !line
      .trimStart()
      .replace(/^\ufeff/, '')
      .startsWith('{')
  )
    return null;
  try {
    const value: unknown = JSON.parse(line.replace(/^\ufeff/, ''));
    return value !== null && typeof value === 'object' && !Array.isArray(value)
      ? (value as Record<string, unknown>)
      : null;
  } catch {
    return null;
  }
}

/**
 * Streaming JSON Lines: an object a line, its values in the order of `keys` as the fields of a row. What is no object is told
 * as a problem with its line; nothing is passed over silently but empty lines. Chunks may end anywhere.
 */
export class JsonLinesReader {
  private rest = '';
  private line = 0;
  private skipping = false;

  constructor(
    private readonly onRow: (row: CsvRow) => void,
    private readonly onProblem: (problem: CsvProblem) => void,
    private readonly keys: readonly string[],
    private readonly maxLineChars = 64 * 1024,
  ) {}

  write(chunk: string): void {
    const text = this.rest + chunk;
    let at = 0;
    for (let end = text.indexOf('\n'); end >= 0; end = text.indexOf('\n', at)) {
      this.take(text.slice(at, end));
      at = end + 1;
    }
    this.rest = text.slice(at);
    if (this.rest.length <= this.maxLineChars) return;
    if (!this.skipping) this.tooLong(this.rest);
    this.skipping = true;
    this.rest = '';
  }

  end(): void {
    if (this.rest !== '' || this.skipping) this.take(this.rest);
    this.rest = '';
  }

  private tooLong(text: string): void {
    const reason = `the line is longer than ${this.maxLineChars.toLocaleString('en')} characters`;
    this.onProblem({ line: this.line + 1, reason, sample: text.slice(0, 120) });
  }

  private take(text: string): void {
    if (this.skipping) {
      // its beginning was told of already
      this.skipping = false;
      this.line++;
      return;
    }
    if (text.length > this.maxLineChars) {
      this.tooLong(text);
      this.line++;
      return;
    }
    this.line++;
    if (text.trim().replace(/^\ufeff/, '') === '') return;
    const value = objectOf(text);
    if (value) this.onRow({ fields: this.keys.map((key) => cellOf(value[key])), line: this.line });
    else this.onProblem({ line: this.line, reason: 'the line is no JSON object', sample: text.slice(0, 120) });
  }
}
