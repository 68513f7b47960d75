import { z } from 'zod';
import { runIdeas } from '../../core/ideas/run';
import type { ScoredIdea } from '../../core/ideas/score';
import { numberForms } from '../../core/names/number-forms';
import { SayabilityModel } from '../../core/names/sayable';
import { likeness } from '../../core/names/spelling';
import { HttpClient } from '../../net/http';
import { putIdeas, type RankedIdea, readIdeaRun } from '../../store/ideas/ideas';
import { listBriefs } from '../../store/shortlist/briefs';
import { marksOf } from '../connections/services';
import { Valuer } from '../measures/worth';
import { makeSplitter, wordCounts } from '../pool/splitter';
import { type JobContext, JobError, letOthersGo, RateMeter, throwIfStopped } from '../runner/context';

export const IdeasParams = z.object({ runId: z.number().int() });

const MOST_MADE = 1_000_000;
const KEPT = 3000;
/** Of those, so many are valued, and so many have a register asked. */
const VALUED = 500;
const MARKS_ASKED = 60;

/** Makes names from a pattern, judges them, and keeps the best with what they would bring and the marks they are like. */
export async function runIdeasJob(context: JobContext): Promise<void> {
  const { store, job, signal } = context;
  const run = readIdeaRun(store, IdeasParams.parse(job.params).runId);
  if (!run) throw new JobError('The pattern is gone; make it again.');
  const brief = listBriefs(store).find(({ id }) => id === run.briefId);
  const splitter = makeSplitter(store);
  const counts = new Map(wordCounts().map(({ word, count }) => [word.toLowerCase(), Math.log1p(count)]));
  const briefWords = new Set(
    [...(brief?.subjectWords ?? []), ...(brief?.requiredWords ?? [])].flatMap((text) =>
      text
        .toLowerCase()
        .split(/[^a-z0-9]+/)
        .filter(Boolean)
        .flatMap(numberForms),
    ),
  );
  const meter = new RateMeter();
  const judges = {
    splitter,
    sayable: new SayabilityModel(wordCounts()),
    commonness: (word: string) => counts.get(word) ?? 0,
    briefWords,
  };
  const steps = runIdeas(run.pattern, judges, MOST_MADE, KEPT);
  let step = steps.next();
  while (!step.done) {
    throwIfStopped(signal);
    const done = step.value;
    context.progress({ done, total: null, unit: 'ideas', rate: meter.rate(done), message: 'making and judging' });
    await letOthersGo(store);
    step = steps.next();
  }
  const { best, made } = step.value;
  const [ending] = run.pattern.endings;
  const worths = new Valuer(store).resale(
    best.slice(0, VALUED).map(({ label }) => `${label}.${ending}`),
    splitter,
  );
  const marks = await marksLike(context, best.slice(0, MARKS_ASKED));
  const ranked = best.map(
    (idea, n): RankedIdea => ({
      ...idea,
      worthLowMinor: worths[n]?.lowMinor ?? null,
      worthHighMinor: worths[n]?.highMinor ?? null,
      mark: marks.get(idea.label) ?? null,
    }),
  );
  putIdeas(store, run.id, ranked, made);
  const words = `${made.toLocaleString('en')} made and judged, the best ${ranked.length.toLocaleString('en')} kept`;
  context.progress({ done: made, total: made, unit: 'ideas', rate: 0, message: words });
}

/** Trademarks that the best are like, by label; where a register is set and answers. */
async function marksLike({ store, settings, signal }: JobContext, ideas: ScoredIdea[]): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  const http = new HttpClient({
    userAgent: settings.userAgent,
    connector: store.config.connector,
    allowedPrivate: settings.allowedPrivate,
    timeoutMs: 5000,
  });
  try {
    const register = marksOf(http, settings);
    for (const { label, words } of ideas) {
      throwIfStopped(signal);
      const marks = (await register?.find(words.join(' '), signal).catch(() => null)) ?? null;
      if (!marks) break; // it does not answer: nothing is known of the rest
      const like = marks
        .flatMap(({ mark }) => {
          const near = likeness(label, words, mark);
          return near ? [{ mark, ...near }] : [];
        })
        .sort((a, b) => b.score - a.score)[0];
      if (like) found.set(label, `${like.mark}: ${like.why}`);
    }
  } finally {
    await http.close();
  }
  return found;
}
