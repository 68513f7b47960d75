'use client';

import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { QUESTION_DEPTHS } from '../../core/lifecycle/question-depths';
import { count } from '../../core/wording/format';
import { call } from '../api';
import { Problem, SteadyLabel } from '../fields';
import { chosenOf } from '../form-data';

/** Chromium takes minutes to lay out thousands of pasted lines: a long text is taken at once and only told of. */
const SHOWN_CHARACTERS = 20_000;

/** Names or addresses to be checked, tens of thousands at a time. */
export function PasteBatch({ hasRegistrar }: { hasRegistrar: boolean }) {
  const router = useRouter();
  const [long, setLong] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const field = useRef<HTMLTextAreaElement>(null);
  const send = async (form: FormData) => {
    const text = long ?? String(form.get('names'));
    if (isBusy) return;
    setBusy(true);
    setProblem(null);
    try {
      const depth = chosenOf(form, 'depth', QUESTION_DEPTHS);
      const freshMinutes = Number(form.get('fresh'));
      const { id } = await call('POST /batches', { body: { text, depth, freshMinutes } });
      router.push(`/check/${id}`);
    } catch (error) {
      setProblem((error as Error).message);
      setBusy(false);
    }
  };
  return (
    <form action={(form) => void send(form)} aria-label="Check names" className="flex flex-col gap-2">
      {long === null ? (
        <textarea
          ref={field}
          name="names"
          rows={4}
          className="field w-full resize-y"
          aria-label="Names or addresses"
          placeholder="Names or addresses, between spaces, commas or lines; 50,000 at a time if need be"
          onPaste={(event) => {
            const text = event.clipboardData.getData('text');
            if (text.length < SHOWN_CHARACTERS) return;
            event.preventDefault();
            setLong(text);
          }}
        />
      ) : (
        <p className="field">
          {count(long.split(/[\s,;|]+/).filter(Boolean).length)} names were pasted.{' '}
          <button type="button" className="set" onClick={() => setLong(null)}>
            paste others
          </button>
        </p>
      )}
      <div className="flex flex-wrap items-center gap-5">
        <button type="submit" className="press" aria-busy={isBusy}>
          <SteadyLabel label="Check them" busyLabel="Taking them" isBusy={isBusy} />
        </button>
        <label className="flex items-center gap-1.5">
          answers of the last
          <select name="fresh" className="field" defaultValue="60">
            <option value="0">moment</option>
            <option value="60">hour</option>
            <option value="1440">day</option>
            <option value="10080">week</option>
          </select>
          are good enough
        </label>
        <label className="flex items-center gap-1.5">
          asked
          <select name="depth" aria-label="How far they are asked" className="field" defaultValue="record">
            <option value="record">until they are available or registered</option>
            <option value="registrar" disabled={!hasRegistrar}>
              free ones down to the registrar{hasRegistrar ? '' : ' (none is set)'}
            </option>
            <option value="full">in full: expiries of registered ones, too</option>
          </select>
        </label>
      </div>
      <Problem text={problem} />
    </form>
  );
}
