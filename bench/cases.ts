import { readFileSync } from 'node:fs';

/** A page by hand, with what a person says that it is about. */
export interface CasePage {
  /** `area.subject`; null: it is about nothing, or its language is not read. */
  subject: string | null;
  /** ISO 639-1. */
  language: string;
  isRead: boolean;
  text: string;
}

/** Home pages that nobody's generator wrote (bench/cases/pages-*.txt). */
export function casePages(): CasePage[] {
  return ['pages-en', 'pages-other'].flatMap((name) =>
    read(name)
      .split(/^## /m)
      .slice(1)
      .map((part) => {
        const end = part.indexOf('\n');
        const [subject, language] = part.slice(0, end).trim().split(' ');
        const isSubject = subject.includes('.');
        return {
          subject: isSubject ? subject : null,
          language,
          isRead: subject !== 'unread',
          text: part.slice(end).trim(),
        };
      }),
  );
}

/** Names with the words that a person reads in them, by group: a language, or `en modern`. */
export function caseNames(): Map<string, string[][]> {
  const groups = new Map<string, string[][]>();
  let names: string[][] = [];
  for (const line of read('words').split('\n')) {
    const group = /^\[(.+)\]$/.exec(line)?.[1];
    if (group) {
      names = [];
      groups.set(group, names);
    } else if (line !== '' && !line.startsWith('#')) names.push(line.split(' '));
  }
  return groups;
}

/** Names in which a keyword stands as a word, or only as letters. */
export function caseKeywords(): { label: string; keyword: string; isWord: boolean }[] {
  return read('keywords')
    .split('\n')
    .filter((line) => line !== '' && !line.startsWith('#'))
    .map((line) => {
      const [label, keyword, answer] = line.split(' ');
      return { label, keyword, isWord: answer === 'yes' };
    });
}

const read = (name: string) => readFileSync(`bench/cases/${name}.txt`, 'utf8').trim();
