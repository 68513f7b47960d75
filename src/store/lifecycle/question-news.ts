import type { DnsOutcome, Phase } from '../../core/lifecycle/phase';
import { type Store, write } from '../base/database';
import { all, camel, columns, knex, pick, prepared, run, sql, the } from '../base/query';

const QUESTION_NEWS = columns('question_news');

/** What DNS said, for those who do not want to wait for more. Call inside a write transaction. */
export function tellDns(store: Store, domainId: number, dns: DnsOutcome): void {
  tell(store, domainId, dns, null);
}

/** A question is answered: all who asked are told. Call inside a write transaction. */
export function closeQuestion(store: Store, domainId: number, dns: DnsOutcome | null, phase: Phase): void {
  tell(store, domainId, dns, phase);
  FORGET_ASKERS.run(store, { domainId });
  FORGET.run(store, { domainId });
}

const FORGET_ASKERS = prepared(({ domainId }: { domainId: number }) =>
  knex('question_askers').where('domain_id', domainId).delete(),
);

const FORGET = prepared(({ domainId }: { domainId: number }) =>
  knex('questions').where('domain_id', domainId).delete(),
);

const ASKERS_OF = prepared(({ domainId }: { domainId: number }) =>
  knex('question_askers').where('domain_id', domainId).pluck('job_id'),
);

const TELL = prepared((news: { jobId: number; domainId: number; dns: DnsOutcome | null; phase: Phase | null }) =>
  knex('question_news').insert({ job_id: news.jobId, domain_id: news.domainId, dns: news.dns, phase: news.phase }),
);

export function tell(store: Store, domainId: number, dns: DnsOutcome | null, phase: Phase | null): void {
  for (const jobId of ASKERS_OF.all(store, { domainId })) TELL.run(store, { jobId, domainId, dns, phase });
}

export interface QuestionNews {
  id: number;
  domainId: number;
  dns: DnsOutcome | null;
  phase: Phase | null;
}

/** What a job has been told since. */
export function newsFor(store: Store, jobId: number, after: number, limit = 5000): QuestionNews[] {
  return all(
    store,
    pick(knex('question_news'), camel(QUESTION_NEWS, 'id', 'domain_id', 'dns', 'phase'))
      .where('job_id', jobId)
      .where('id', '>', after)
      .orderBy('id')
      .limit(limit),
  );
}

/** How many questions of a job are open. */
export function openQuestions(store: Store, jobId: number): number {
  const { open } = the(store, pick(knex('question_askers'), { open: sql<number>('count(*)') }).where('job_id', jobId));
  return open;
}

/**
 * A job does not wait any longer. Its questions rest with what was said so far, unless others ask them as well; with `goOn` they are
 * asked all the same, when their turn comes.
 */
export function leaveQuestions(store: Store, jobId: number, goOn: boolean): void {
  write(store, () => {
    if (!goOn)
      run(
        store,
        knex('questions')
          .whereRaw('domain_id IN (SELECT domain_id FROM question_askers WHERE job_id = ?)', [jobId])
          .whereRaw(
            'NOT EXISTS (SELECT 1 FROM question_askers o WHERE o.domain_id = questions.domain_id AND o.job_id <> ?)',
            [jobId],
          )
          .update({ held: 1 }),
      );
    run(store, knex('question_askers').where('job_id', jobId).delete());
    run(store, knex('question_news').where('job_id', jobId).delete());
  });
}
