import { z } from 'zod';
import { plainText } from '../core/formats/plain-text';
import { NetError } from './errors';
import type { HttpClient } from './http';

/**
 * A trademark register's answer, in the product's own open format (docs/mark-register.md): GET `{base}?q=words` gives JSON with the word
 * marks that are in some way like the words; how like they are is judged here.
 */
const Answer = z.object({
  register: z.string().min(1).max(200),
  marks: z
    .array(
      z.object({
        number: z.string().min(1).max(100),
        mark: z.string().min(1).max(300),
        owner: z.string().max(300).default(''),
        classes: z.array(z.number().int().min(1).max(45)).max(45).default([]),
        status: z.string().max(100).default('registered'),
      }),
    )
    .max(1000),
});

export interface RegisteredMark {
  register: string;
  number: string;
  mark: string;
  owner: string;
  /** Nice classes, as text. */
  classes: string;
  status: string;
}

/** Trademarks that a register holds for like for some words. @throws NetError */
export async function findMarks(
  http: HttpClient,
  base: string,
  words: string,
  signal?: AbortSignal,
): Promise<RegisteredMark[]> {
  const url = new URL(base);
  url.searchParams.set('q', words);
  const { status, body } = await http.get(url.href, { accept: 'application/json', signal });
  if (status !== 200) throw new NetError('bad-answer', `the register ${url.host} answered ${status}`);
  return readMarks(body.toString('utf8'), url.host);
}

/** Reads a register's answer. @throws NetError when it is none. */
export function readMarks(text: string, server: string): RegisteredMark[] {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new NetError('bad-answer', `the answer of ${server} is no JSON`);
  }
  const parsed = Answer.safeParse(value);
  if (!parsed.success) throw new NetError('bad-answer', `the answer of ${server} is none of a register`);
  const { register, marks } = parsed.data;
  return marks.map(({ number, mark, owner, classes, status }) => ({
    register: plainText(register, 100),
    number: plainText(number, 60),
    mark: plainText(mark, 120),
    owner: plainText(owner, 120),
    classes: classes.join(', '),
    status: plainText(status, 60),
  }));
}
