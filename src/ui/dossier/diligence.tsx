'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { type DiligencePoint, type DiligenceState, diligenceTally } from '../../core/verdict/diligence';
import { isPageQuestion, type PageQuestion } from '../../core/verdict/page-questions';
import { ago, plural } from '../../core/wording/format';
import { call } from '../api';
import Link from '../link';
import { useRedraw } from '../server-state';
import { useNow } from '../shell/live';

const STATE_WORDS: Record<DiligenceState, string> = {
  fine: 'fine',
  look: 'look closer',
  bad: 'against',
  open: 'open',
};
const ANSWERS = [
  ['fine', 'Fine'],
  ['look', 'In doubt'],
  ['bad', 'Speaks against'],
] as const;

/** What a careful buyer makes sure of: filled in where it can be found, answered by hand where it can't, with when and by whom. */
export function Diligence({ name, points }: { name: string; points: DiligencePoint[] }) {
  const redraw = useRedraw();
  const now = useNow();
  const [open, setOpen] = useState<string | null>(null);
  const [note, setNote] = useState('');
  const [asking, setAsking] = useState<PageQuestion | null>(null);
  const { answered, all, look, bad } = diligenceTally(points);
  const answer = async ({ item, question }: DiligencePoint, state: (typeof ANSWERS)[number][0]) => {
    try {
      const { id } = await call('POST /domains/{name}/diligence', { params: { name }, body: { item, state, note } });
      setOpen(null);
      setNote('');
      redraw();
      toast(`${question} Kept, with the time`, {
        action: {
          label: 'Undo',
          onClick: () =>
            void call('DELETE /domains/{name}/diligence/{id}', { params: { name, id } })
              .then(redraw)
              .catch((error: Error) => toast(error.message)),
        },
      });
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const ask = async (item: PageQuestion) => {
    if (asking !== null) return;
    setAsking(item);
    try {
      await call('POST /domains/{name}/diligence/ask', { params: { name }, body: { item } });
      redraw();
    } catch (error) {
      toast((error as Error).message);
    } finally {
      setAsking(null);
    }
  };
  return (
    <section aria-labelledby="diligence">
      <h2 id="diligence">
        Due diligence{' '}
        <span className="small ml-1.5 font-normal">
          {answered} of {all} answered{look > 0 && `, ${look} to look at closer`}
          {bad > 0 && `, ${bad} against`}
        </span>
      </h2>
      <ul className="mt-1.5 columns-2 gap-x-12">
        {points.map((point) => {
          const { item, question, state, answer: words, at, by, who, found } = point;
          return (
            <li key={item} className="break-inside-avoid border-t border-rule py-1" data-item={item} data-state={state}>
              <div className="flex items-baseline gap-3">
                <span className="min-w-0 flex-1">{question}</span>
                <button
                  type="button"
                  className={`shrink-0 ${state === 'open' ? 'text-muted' : state === 'bad' ? 'font-semibold underline' : 'font-semibold'}`}
                  aria-expanded={open === item}
                  aria-label={`${STATE_WORDS[state]}: ${question} Answer it yourself`}
                  onClick={() => {
                    setOpen(open === item ? null : item);
                    setNote('');
                  }}
                >
                  {STATE_WORDS[state]}
                </button>
              </div>
              <p className="small">
                {words}
                {by === 'you' ? `; ${who}, ${ago(at, now)}` : at !== null && `; found ${ago(at, now)}`}
                {found && `; found without you: ${found.answer}`}
              </p>
              {isPageQuestion(item) && point.asking && (
                <Asking {...point.asking} question={question} isBusy={asking === item} onAsk={() => void ask(item)} />
              )}
              {open === item && (
                <div className="mt-1 flex flex-wrap gap-2">
                  <input
                    className="field min-w-40 flex-1 py-0.5"
                    value={note}
                    maxLength={2000}
                    placeholder="what you found"
                    aria-label={`Note: ${question}`}
                    // biome-ignore lint/a11y/noAutofocus: it was opened to be written in
                    autoFocus
                    onChange={(event) => setNote(event.target.value)}
                    onKeyDown={(event) => event.key === 'Escape' && setOpen(null)}
                  />
                  {ANSWERS.map(([value, label]) => (
                    <button key={value} type="button" className="quiet" onClick={() => void answer(point, value)}>
                      {label}
                    </button>
                  ))}
                </div>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** Who can be asked a question that pages answer, where a person opens it, and the pages that were named. */
function Asking({
  who,
  link,
  pages,
  question,
  isBusy,
  onAsk,
}: NonNullable<DiligencePoint['asking']> & { question: string; isBusy: boolean; onAsk(): void }) {
  return (
    <div className="small flex min-h-[24px] flex-wrap items-center gap-x-3 gap-y-[8px]">
      {who !== null && (
        <button type="button" className="set" aria-busy={isBusy} aria-label={`Ask ${who}: ${question}`} onClick={onAsk}>
          {isBusy ? 'Asking' : `Ask ${who}`}
        </button>
      )}
      {link !== null && (
        <a
          className="set"
          href={link}
          target="_blank"
          rel="noopener noreferrer"
          aria-label={`Open the question in a search: ${question}`}
        >
          Open the question
        </a>
      )}
      {who === null && link === null && (
        <Link className="set" href="/setup">
          Say who can be asked
        </Link>
      )}
      {pages.length > 0 && (
        <details>
          <summary className="set w-fit cursor-pointer">{plural(pages.length, 'page')}</summary>
          <ul>
            {pages.map(({ url, title }) => (
              <li key={url} className="break-all">
                <a className="hover:underline" href={url} target="_blank" rel="noopener noreferrer nofollow">
                  {title || url}
                </a>
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}
