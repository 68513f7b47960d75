import { z } from 'zod';
import { isPassedOn, judgeView } from '../history/capture';
import type { LanguageOf } from '../history/language';
import { type PageView, viewPage } from '../history/page-view';
import { type Past, type ReadCapture, summarizeCaptures } from '../history/past';
import { clearSubject, subjectClassifier } from '../topics/classifier';
import { Domain, iso, kind, Text, Time } from './fields';

export const Capture = z.object({
  at: Time,
  status: z.coerce.number().nullish(),
  location: Text,
  title: Text,
  text: Text,
  html: Text,
});

/** Captures as they are given, read and in order; those without a time are left out. */
export function readCaptures(
  captures: readonly z.infer<typeof Capture>[],
  site: string,
  languageOf: LanguageOf,
): ReadCapture[] {
  return captures
    .flatMap(({ at, ...capture }) => (at === null ? [] : [readCapture(at, capture, site, languageOf)]))
    .sort((a, b) => a.at - b.at);
}

function readCapture(
  at: number,
  { status, location, title, text, html }: Omit<z.infer<typeof Capture>, 'at'>,
  site: string,
  languageOf: LanguageOf,
): ReadCapture {
  const page = viewPage(html ?? '');
  const view: PageView = {
    ...page,
    title: title ?? page.title,
    text: text === null || text === undefined ? page.text : text.replace(/\s+/g, ' ').trim(),
  };
  const isScripted = /<script\b/i.test(html ?? '');
  const told = judgeView(
    { status: status || (location ? 301 : 200), location: location ?? null, site, view, isScripted },
    languageOf,
  );
  const classifier = subjectClassifier();
  // short texts are read in the language that knows most of their words
  const language = told.kind === 'content' ? (told.language ?? guessed(told.terms)) : null;
  return {
    ...told,
    at,
    language,
    isPassedOn: isPassedOn(told),
    subject: told.kind === 'content' ? clearSubject(classifier.classify(told.terms, language)) : null,
  };
}

const LEAST_WORDS = 3;
function guessed(terms: ReadCapture['terms']): string | null {
  const classifier = subjectClassifier();
  const language = classifier.likeliest(terms);
  return classifier.score(terms, language).known >= LEAST_WORDS ? language : null;
}

/** Eras, drops and change of topic by captures. */
export const past = kind(
  z.object({ domain: Domain, registeredAt: Time, captures: z.array(Capture).nullish() }),
  ({ domain, registeredAt, captures }, _clock, { languageOf }) => {
    const read = readCaptures(captures ?? [], domain.name, languageOf);
    return answerOf(summarizeCaptures({ times: read.map(({ at }) => at), read, registeredAt }));
  },
);

function answerOf({ eras, drops, drift, contentYears, languageSwitches }: Past): object {
  return {
    eras: eras.map(({ kind: shown, from, to, subject, language }) => ({
      kind: shown,
      from: iso(from),
      to: iso(to),
      subject: subject ?? null,
      language,
    })),
    drops: drops.map(({ from, to, why }) => ({ from: iso(from), to: iso(to), why })),
    topicChange: drift,
    contentYears,
    languageSwitches,
  };
}
