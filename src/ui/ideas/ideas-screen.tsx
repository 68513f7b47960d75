'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { IdeaView } from '../../contracts/ideas';
import { countIdeas, type IdeaPattern, JOINTS, type Joint } from '../../core/ideas/pattern';
import type { Place } from '../../core/ideas/places';
import { ago, count, plural } from '../../core/wording/format';
import { call } from '../api';
import { ExportMenu } from '../export-menu';
import { wordsOf } from '../forms/typed';
import Link from '../link';
import { useRedraw } from '../server-state';
import { useLive, useNow } from '../shell/live';
import { RefreshOnJobs } from '../sources/refresh';
import { IdeaTable } from './ideas-table';
import { PlacesFile } from './places-file';
import { SlotFields } from './slot-fields';
import { draftOf, draftOfSlot, type SlotDraft, slotOf } from './slots';

interface IdeasScreenProps {
  brief: { id: number; name: string; words: string[]; excludedEndings: string[]; currency: string };
  places: Place[];
  /** Made from a name that cannot be had; null: none was asked for. */
  near: { name: string; pattern: IdeaPattern } | null;
  run: { id: number; pattern: IdeaPattern; made: number | null; createdAt: number; doneAt: number | null } | null;
  rows: IdeaView[];
  kept: number;
}

const JOINT_WORDS: Record<Joint, string> = {
  joined: 'joined',
  hyphen: 'with a hyphen',
  overlap: 'overlapping where letters are shared',
};
const BEST_CHECKED = 40;

/** Names that may never have been registered: a pattern of slots, and the best of what it gives. */
export function IdeasScreen({ brief, places, near, run, rows, kept }: IdeasScreenProps) {
  const router = useRouter();
  const redraw = useRedraw();
  const now = useNow();
  const { poolVersion } = useLive();
  const start = run?.pattern ?? near?.pattern ?? null;
  const [slots, setSlots] = useState<SlotDraft[]>(
    start?.slots.map(draftOfSlot) ?? [draftOf('brief', brief.words), draftOf('after', brief.words)],
  );
  const [isAnyOrder, setAnyOrder] = useState(start?.isAnyOrder ?? false);
  const [withTwins, setTwins] = useState(start?.withTwins ?? false);
  const [joints, setJoints] = useState<Joint[]>([...(start?.joints ?? ['joined'])]);
  const [endings, setEndings] = useState((start?.endings ?? ['com', 'org']).join(', '));
  const [mostLetters, setMostLetters] = useState(start?.mostLetters ?? 16);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const pattern: IdeaPattern = {
    slots: slots.map((draft) => slotOf(draft, places)),
    isAnyOrder,
    withTwins,
    joints,
    endings: wordsOf(endings),
    mostLetters,
  };
  // what is learned of names shows as it comes
  const version = useRef(poolVersion);
  useEffect(() => {
    if (version.current !== poolVersion) redraw();
    version.current = poolVersion;
  }, [poolVersion, redraw]);
  const labels = countIdeas({ ...pattern, endings: ['x'] });
  const attempt = async (work: () => Promise<unknown>) => {
    try {
      await work();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const make = () =>
    attempt(async () => {
      const { id } = await call('POST /ideas', { body: { briefId: brief.id, pattern } });
      router.push(`/ideas?run=${id}`);
      redraw();
    });
  const namesOf = (shown: readonly IdeaView[]) => shown.flatMap((idea) => idea.endings.map(({ name }) => name));
  const check = (names: string[]) =>
    attempt(async () => {
      await call('POST /batches', {
        body: { text: names.join('\n'), name: `Ideas for ${brief.name}`, depth: 'record' },
      });
      toast(`${plural(names.length, 'name')} are asked about, the best first; answers show here as they come`);
    });
  const shortlist = (names: string[]) =>
    attempt(async () => {
      await call('POST /batches', {
        body: { text: names.join('\n'), name: `Ideas for ${brief.name}`, depth: 'record' },
      });
      // into the pool first: the list is read in a moment
      for (let attempts = 0; ; attempts++)
        try {
          await call('POST /shortlist', { body: { briefId: brief.id, names } });
          break;
        } catch (error) {
          if (attempts > 20) throw error;
          await new Promise((rest) => setTimeout(rest, 300));
        }
      toast(`${plural(names.length, 'name')} on the shortlist of ${brief.name}`);
      setTicked(new Set());
      redraw();
    });
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[400px_minmax(0,1fr)] gap-x-8 px-6 py-6">
      <RefreshOnJobs />
      <section aria-labelledby="ideas">
        <h1 id="ideas">Ideas for {brief.name}</h1>
        <p className="small mb-3">Names that may never have been had: words in slots, put together and judged.</p>
        {slots.map((slot, n) => (
          <SlotFields
            key={n}
            number={n + 1}
            slot={slot}
            places={places}
            briefWords={brief.words}
            words={pattern.slots[n].words.length}
            onChange={(next) => setSlots(slots.map((one, at) => (at === n ? next : one)))}
            onRemove={slots.length > 1 ? () => setSlots(slots.filter((_, at) => at !== n)) : null}
          />
        ))}
        {slots.length < 4 && (
          <button type="button" className="set" onClick={() => setSlots([...slots, draftOf('own', brief.words)])}>
            another slot
          </button>
        )}
        <fieldset className="mt-3 flex flex-col gap-1 border-t border-rule pt-2">
          <legend className="sr-only">How they are put together</legend>
          {JOINTS.map((joint) => (
            <label key={joint} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={joints.includes(joint)}
                onChange={(event) =>
                  setJoints(JOINTS.filter((one) => (one === joint ? event.target.checked : joints.includes(one))))
                }
              />
              {JOINT_WORDS[joint]}
            </label>
          ))}
          <label className="flex items-center gap-1.5">
            <input type="checkbox" checked={isAnyOrder} onChange={(event) => setAnyOrder(event.target.checked)} />
            slots in any order
          </label>
          <label className="flex items-center gap-1.5">
            <input type="checkbox" checked={withTwins} onChange={(event) => setTwins(event.target.checked)} />
            the last word in both numbers
          </label>
        </fieldset>
        <div className="mt-3 flex gap-4">
          <label className="grow">
            <span className="block font-semibold">TLDs</span>
            <input className="field mt-1 w-full" value={endings} onChange={(event) => setEndings(event.target.value)} />
          </label>
          <label>
            <span className="block font-semibold">Letters at most</span>
            <input
              type="number"
              min={2}
              max={63}
              className="field mt-1 w-24"
              value={mostLetters}
              onChange={(event) => setMostLetters(Number(event.target.value))}
            />
          </label>
        </div>
        <p role="status" className="mt-3">
          <span className="font-serif text-figure font-semibold">{count(labels)}</span> labels at most, before those
          that are too long or made twice fall out
        </p>
        <button type="button" className="press mt-2" disabled={labels === 0} onClick={() => void make()}>
          Make and judge them
        </button>
        <PlacesFile places={places.length} />
      </section>
      <section aria-label="The best">
        {!run && near && (
          <p className="max-w-prose">
            The pattern at the left gives what is nearest to{' '}
            <Link href={`/domains/${near.name}`} className="set">
              {near.name}
            </Link>
            : its words in both numbers or changed for others of the brief, with words around it, and under other
            endings. Change it as you like, then make them.
          </p>
        )}
        {!run && !near && (
          <p className="max-w-prose">Nothing is made yet for this brief. The pattern at the left is a start.</p>
        )}
        {run && run.doneAt === null && <p role="status">They are being made and judged …</p>}
        {run?.doneAt && (
          <>
            <div className="flex items-baseline gap-4">
              <h2>
                The best {count(rows.length)} of {count(run.made)}
              </h2>
              <span className="small">
                made {ago(run.doneAt, now)}; {count(kept)} are kept
              </span>
              <span className="ml-auto flex gap-2">
                <ExportMenu address={`/api/v1/export?what=ideas&id=${run.id}`} label="all that are kept" />
                {ticked.size > 0 && (
                  <>
                    <button type="button" className="quiet" onClick={() => void check([...ticked])}>
                      Ask about {ticked.size}
                    </button>
                    <button type="button" className="press" onClick={() => void shortlist([...ticked])}>
                      Shortlist {ticked.size}
                    </button>
                  </>
                )}
                <button
                  type="button"
                  className="quiet"
                  onClick={() => void check(namesOf(rows.slice(0, BEST_CHECKED)))}
                >
                  Are the best {BEST_CHECKED} available?
                </button>
              </span>
            </div>
            <IdeaTable
              rows={rows}
              currency={brief.currency}
              ticked={ticked}
              onTick={(name, isTicked) =>
                setTicked((before) => {
                  const next = new Set(before);
                  if (isTicked) next.add(name);
                  else next.delete(name);
                  return next;
                })
              }
            />
          </>
        )}
      </section>
    </div>
  );
}
