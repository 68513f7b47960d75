import { SUBJECT_TEXT } from './subject-words';
import { singular } from './terms';

/** A subject of the second level. */
export interface Subject {
  /** `area.subject`, in lower-case ASCII. */
  id: string;
  area: string;
  title: string;
  words: string[];
}

export interface Area {
  id: string;
  title: string;
  subjects: Subject[];
}

/** The list of subjects, two levels deep, in its order. */
export const AREAS: readonly Area[] = readSubjects(SUBJECT_TEXT);
export const SUBJECTS: readonly Subject[] = AREAS.flatMap((area) => area.subjects);
const byId = new Map(SUBJECTS.map((subject) => [subject.id, subject]));

export function subjectTitle(id: string): string {
  return byId.get(id)?.title ?? id;
}

/** Words that tell a subject, singular; none for a subject that is not in the list. */
export function subjectWords(id: string): Set<string> {
  return new Set((byId.get(id)?.words ?? []).map(singular));
}

/** The area that `area.subject` lies in; null: no subject. */
export function areaOf(subject: string | null): string | null {
  return subject?.split('.')[0] ?? null;
}

/** The area of a subject as people read it. */
export function areaTitle(id: string): string {
  const area = id.slice(0, id.indexOf('.'));
  return AREAS.find((entry) => entry.id === area)?.title ?? area;
}

/** The title of the subject that words speak of: its title, or words that tell it and no other; null: none, or several. */
export function subjectSpokenOf(words: string): string | null {
  const said = words.toLowerCase();
  const terms = said.split(/\s+/).map(singular);
  const titled = SUBJECTS.find(
    ({ title }) => title.toLowerCase() === said || singular(title.toLowerCase()) === terms.join(' '),
  );
  if (titled) return titled.title;
  const telling = SUBJECTS.filter(({ id }) => {
    const known = subjectWords(id);
    return terms.every((term) => known.has(term));
  });
  return telling.length === 1 ? telling[0].title : null;
}

function readSubjects(text: string): Area[] {
  const areas: Area[] = [];
  for (const line of text.trim().split('\n')) {
    if (line.startsWith('# ')) {
      const title = line.slice(2);
      areas.push({ id: title.toLowerCase().split(/[^a-z]+/)[0], title, subjects: [] });
      continue;
    }
    const [, id, title, words] = /^([a-z]+): (.+?) = (.+)$/.exec(line) ?? [];
    const area = areas[areas.length - 1];
    area.subjects.push({ id: `${area.id}.${id}`, area: area.id, title, words: [...new Set(words.split(' '))] });
  }
  return areas;
}
