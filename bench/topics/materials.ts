import { readdirSync, readFileSync } from 'node:fs';
import { SUBJECTS } from '../../src/core/topics/subjects';

export const MATERIALS = 'dist/materials/node_modules';
export const READ_LANGUAGES = ['en', 'de', 'fr', 'es', 'it', 'nl'] as const;
export type ReadLanguage = (typeof READ_LANGUAGES)[number];

/** What a person wrote of a subject: what it is, and the words that its home pages use. */
export interface SubjectMaterial {
  definition: string;
  words: Partial<Record<ReadLanguage, string>>;
}

/** Of each subject, and of `nothing.placeholder`, what was written by hand (bench/topics/*.txt). */
export function subjectMaterials(): Map<string, SubjectMaterial> {
  const materials = new Map<string, SubjectMaterial>();
  for (const file of readdirSync('bench/topics')
    .filter((name) => name.endsWith('.txt'))
    .sort()) {
    let current: SubjectMaterial | null = null;
    for (const line of readFileSync(`bench/topics/${file}`, 'utf8').split('\n')) {
      const heading = /^## (\S+)/.exec(line)?.[1];
      if (heading) {
        current = { definition: '', words: {} };
        materials.set(heading, current);
      } else if (current && line.startsWith('= ')) current.definition = line.slice(2).trim();
      else if (current && /^[a-z]{2}: /.test(line)) current.words[line.slice(0, 2) as ReadLanguage] = line.slice(4);
    }
  }
  const missing = SUBJECTS.filter(({ id }) => !materials.has(id));
  if (missing.length > 0) throw new Error(`nothing is written of ${missing.map(({ id }) => id).join(', ')}`);
  return materials;
}

/** A page by hand that temperatures are set on, apart from those that judge. */
export interface TunePage {
  /** null: it says nothing. */
  subject: string | null;
  language: string;
  text: string;
}

export function tunePages(): TunePage[] {
  return ['pages-en', 'pages-other'].flatMap((name) =>
    readFileSync(`bench/topics/tune/${name}.txt`, 'utf8')
      .split(/^## /m)
      .slice(1)
      .map((part) => {
        const end = part.indexOf('\n');
        const [subject, language] = part.slice(0, end).trim().split(' ');
        return { subject: subject.startsWith('nothing') ? null : subject, language, text: part.slice(end).trim() };
      }),
  );
}
