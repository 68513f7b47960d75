import { RE2JS } from 're2js';
import { MAX_PATTERN } from './conditions';

/** What is wrong with a pattern, in words; null: nothing. */
export function patternProblem(pattern: string): string | null {
  if (pattern.length > MAX_PATTERN) return `a pattern has at most ${MAX_PATTERN} characters`;
  try {
    RE2JS.compile(pattern, RE2JS.CASE_INSENSITIVE);
    return null;
  } catch (error) {
    return (error as Error).message.replace(/^error parsing regexp: /, '').slice(0, 120);
  }
}
