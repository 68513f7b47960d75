import { z } from 'zod';
import { viewPage } from '../history/page-view';
import { displayName } from '../names/domain';
import { type SubjectVerdict, subjectClassifier } from '../topics/classifier';
import { areaOf } from '../topics/subjects';
import { termsOf } from '../topics/terms';
import { Domain, kind, Text } from './fields';

/** What a text or a page is about. */
export const subject = kind(z.object({ text: Text, html: Text }), ({ text, html }, _clock, tools) => {
  const read = text ?? pageText(html ?? '');
  const terms = termsOf(read);
  const language = tools.languageOf(read);
  const verdict = subjectClassifier().classify(terms, language);
  return answerOf(verdict, language ?? (verdict.known > 0 ? subjectClassifier().likeliest(terms) : null));
});

/** What a name is about, by its words alone. */
export const nameSubject = kind(z.object({ domain: Domain }), ({ domain }, _clock, tools) => {
  const label = displayName(domain.name).split('.')[0];
  const { split, language } = tools.nameWords([]).read(label);
  return answerOf(subjectClassifier().classifyName(split.words, language), language);
});

function pageText(html: string): string {
  const { title, text } = viewPage(html);
  return `${title} ${text}`;
}

function answerOf({ subject: told, confidence, runnerUp }: SubjectVerdict, language: string | null): object {
  return { subject: told, area: areaOf(told), confidence, runnerUp, language };
}
