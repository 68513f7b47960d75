'use client';

import { useEffect, useState } from 'react';
import type { SetChoices } from '../../contracts/pool';
import { type Condition, MAX_PATTERN, MAX_VALUES, TEXT_MODES, type TextCondition } from '../../core/pool/conditions';
import { type FactName, factSpec } from '../../core/pool/facts';
import type { PoolAnswer } from '../../core/pool/query';
import { count } from '../../core/wording/format';
import { call } from '../api';
import { Histogram } from './histogram';
import { MODE_WORDS, wordFor } from './sentences';

interface EditorProps {
  condition: Condition;
  histogram: PoolAnswer['histograms'][number] | undefined;
  sets: SetChoices;
  onChange(condition: Condition): void;
}

/** Fields for the values of the condition that is being worked on. */
export default function Editor({ condition, histogram, sets, onChange }: EditorProps) {
  switch (condition.type) {
    case 'range':
      return (
        <>
          {histogram && (
            <Histogram
              bars={histogram}
              min={condition.min}
              max={condition.max}
              whole={factSpec(condition.fact).whole ?? false}
              onChange={(bound, value) => onChange({ ...condition, [bound]: value })}
            />
          )}
          <div className="mt-2 flex items-center gap-2">
            <NumberField label="at least" value={condition.min} onChange={(min) => onChange({ ...condition, min })} />
            <NumberField label="at most" value={condition.max} onChange={(max) => onChange({ ...condition, max })} />
          </div>
          <UnknownBox condition={condition} onChange={(keepUnknown) => onChange({ ...condition, keepUnknown })} />
          {factSpec(condition.fact).kind === 'time' && factSpec(condition.fact).towards === 'past' && (
            <button
              type="button"
              className="set mt-1.5 text-small"
              onClick={() => onChange({ type: 'visit', fact: condition.fact as never, not: false })}
            >
              since my last visit instead
            </button>
          )}
        </>
      );
    case 'visit':
      return <NotBox not={condition.not} words="not since then" onChange={(not) => onChange({ ...condition, not })} />;
    case 'choice': {
      const choices = factSpec(condition.fact).choices;
      const listed = listOf(condition.fact, sets);
      return (
        <>
          <NotBox not={condition.not} onChange={(not) => onChange({ ...condition, not })} />
          {listed ? (
            <FoundTicks
              options={listed}
              chosen={condition.values}
              onChange={(values) => onChange({ ...condition, values })}
            />
          ) : choices ? (
            <Ticks
              options={choices.map((value) => ({ value, label: wordFor(value) }))}
              chosen={condition.values}
              onChange={(values) => onChange({ ...condition, values })}
            />
          ) : (
            <WordsField
              label={condition.fact === 'ending' ? 'Endings, by commas' : 'Names as they are written, by commas'}
              values={condition.values}
              separator={condition.fact === 'ending' ? /[\s,;]+/ : /\s*[,;]\s*/}
              onChange={(values) => onChange({ ...condition, values })}
            />
          )}
          <UnknownBox condition={condition} onChange={(keepUnknown) => onChange({ ...condition, keepUnknown })} />
        </>
      );
    }
    case 'member':
      return (
        <>
          <NotBox not={condition.not} onChange={(not) => onChange({ ...condition, not })} />
          <Ticks
            options={sets[condition.fact].map(({ id, name }) => ({ value: String(id), label: name }))}
            chosen={condition.values.map(String)}
            onChange={(values) => onChange({ ...condition, values: values.map(Number) })}
          />
        </>
      );
    case 'text':
      return <TextEditor condition={condition} onChange={onChange} />;
  }
}

/** What there is to choose from, where it is more than fits on the screen; null: another list, or none. */
function listOf(fact: FactName, { subjects, areas }: SetChoices): string[] | null {
  if (fact === 'subject' || fact === 'nameSubject') return subjects;
  return fact === 'area' ? areas : null;
}

/** A long list of choices, narrowed by some letters; those that are chosen stand first. */
function FoundTicks({
  options,
  chosen,
  onChange,
}: {
  options: string[];
  chosen: string[];
  onChange(values: string[]): void;
}) {
  const [letters, setLetters] = useState('');
  const taken = new Set(chosen.map((value) => value.toLowerCase()));
  const wanted = letters.trim().toLowerCase();
  const shown = [
    ...options.filter((value) => taken.has(value.toLowerCase())),
    ...options.filter((value) => !taken.has(value.toLowerCase()) && value.toLowerCase().includes(wanted)),
  ];
  return (
    <>
      <input
        className="field mt-1.5 w-full"
        aria-label="Letters of a subject"
        placeholder="some letters"
        value={letters}
        // biome-ignore lint/a11y/noAutofocus: the person has just asked for this field
        autoFocus={isFree()}
        onChange={(event) => setLetters(event.target.value)}
      />
      <Ticks
        options={shown.map((value) => ({ value, label: value }))}
        chosen={options.filter((value) => taken.has(value.toLowerCase()))}
        onChange={onChange}
      />
    </>
  );
}

/** Whether the focus may be taken: fields that come late must not close what was opened since. */
const isFree = (): boolean => !document.querySelector('[role=dialog],[role=menu]');

const LONG_PASTE = 2000;

const MODE_NOTES: Record<TextCondition['mode'], string> = {
  contains: 'Letters anywhere in the name before its TLD; those that are no word of it are marked in the grid.',
  starts: 'The first letters of the name.',
  ends: 'The last letters of the name, before its TLD; a word also in its plural.',
  is: 'The whole name before its TLD, or whole domains as they are pasted.',
  word: 'A word as the name is split: bee in pellgatebeeclub, not in beechwood.',
  wordish: 'The same, and bee finds bees, too.',
  pattern: 'RE2 syntax, one a line: ^(bee|hive).*[0-9]$. Takes a few seconds for millions of names.',
};

function TextEditor({ condition, onChange }: { condition: TextCondition; onChange(condition: Condition): void }) {
  return (
    <>
      <div className="mt-1.5 flex items-center gap-2">
        <select
          aria-label="How the name is matched"
          className="field min-w-0 flex-1"
          value={condition.mode}
          onChange={(event) => onChange({ ...condition, mode: event.target.value as typeof condition.mode })}
        >
          {TEXT_MODES.map((mode) => (
            <option key={mode} value={mode}>
              {MODE_WORDS[mode][0].replace(/,$/, '')}
            </option>
          ))}
        </select>
      </div>
      <NotBox not={condition.not} onChange={(not) => onChange({ ...condition, not })} />
      <LongWordsField condition={condition} onChange={onChange} />
      <p className="small mt-1">{MODE_NOTES[condition.mode]}</p>
    </>
  );
}

/** Words or patterns; a pasted list of thousands is kept on the server and named by its number. */
function LongWordsField({ condition, onChange }: { condition: TextCondition; onChange(condition: Condition): void }) {
  const isPattern = condition.mode === 'pattern';
  const [text, setText] = useState(condition.values.join(isPattern ? '\n' : ', '));
  const [problem, setProblem] = useState<string | null>(null);
  const [size, setSize] = useState<number | null>(null);
  const take = async (raw: string) => {
    setText(raw);
    setProblem(null);
    const split = isPattern ? raw.split('\n') : raw.toLowerCase().split(/[\s,;]+/);
    const values = [...new Set(split.filter(Boolean))];
    const { list: _, ...rest } = condition;
    const tooLong = isPattern ? values.find((value) => value.length > MAX_PATTERN) : undefined;
    if (tooLong) {
      setProblem(`A pattern has at most ${count(MAX_PATTERN)} characters; this one has ${count(tooLong.length)}.`);
      return;
    }
    if (isPattern || values.length <= MAX_VALUES) {
      setSize(null);
      onChange({ ...rest, values: values.slice(0, MAX_VALUES) });
      return;
    }
    const long = values.find((value) => value.length > 253);
    if (long) {
      setProblem(`"${long.slice(0, 30)}…" is longer than any name.`);
      return;
    }
    try {
      const kept = await call('POST /word-lists', { body: { words: values } });
      setSize(kept.count);
      setText('');
      onChange({ ...rest, values: [], list: kept.id });
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  return (
    <label className="mt-1.5 block">
      <span className="small">
        {isPattern ? 'Patterns, one a line' : 'Letters, by commas or lines; a list of thousands can be pasted'}
      </span>
      <textarea
        className="field w-full resize-y"
        rows={text.length > 60 ? 4 : 2}
        spellCheck={false}
        value={condition.list && text === '' ? '' : text}
        placeholder={condition.list ? 'the kept list; type to replace it' : undefined}
        aria-invalid={problem !== null}
        // biome-ignore lint/a11y/noAutofocus: the person has just asked for this field
        autoFocus={isFree()}
        // browsers take minutes to lay out thousands of pasted lines one by one
        onPaste={(event) => {
          const pasted = event.clipboardData.getData('text');
          if (isPattern || pasted.length < LONG_PASTE) return;
          event.preventDefault();
          void take(
            [text, pasted]
              .filter(Boolean)
              .join(', ')
              .replaceAll(/[\r\n]+/g, ', '),
          );
        }}
        onChange={(event) => void take(event.target.value)}
      />
      {size !== null && <span className="small block">{count(size)} words, kept as a list</span>}
      {problem && (
        <span role="alert" className="mt-1 block bg-quince px-2 py-1">
          {problem}
        </span>
      )}
    </label>
  );
}

/** What becomes of domains whose value is not known: said, and chosen. */
function UnknownBox({
  condition,
  onChange,
}: {
  condition: Extract<Condition, { keepUnknown: boolean }>;
  onChange(keepUnknown: boolean): void;
}) {
  if (!factSpec(condition.fact).optional) return null;
  return (
    <label className="mt-1.5 flex items-center gap-2">
      <input type="checkbox" checked={condition.keepUnknown} onChange={(event) => onChange(event.target.checked)} />
      keep domains whose value is not known
    </label>
  );
}

export function NumberField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number | null;
  onChange(value: number | null): void;
}) {
  const [text, setText] = useState(value === null ? '' : String(value));
  useEffect(
    () =>
      setText((before) =>
        before.trim() !== '' && Number(before) === value ? before : value === null ? '' : String(value),
      ),
    [value],
  );
  const isWrong = text.trim() !== '' && !Number.isFinite(Number(text));
  return (
    <label className="flex items-center gap-1.5">
      <span className="small">{label}</span>
      <input
        className="field w-[72px]"
        inputMode="decimal"
        value={text}
        aria-invalid={isWrong}
        title={isWrong ? 'This is no number' : undefined}
        onChange={(event) => {
          setText(event.target.value);
          const trimmed = event.target.value.trim();
          if (trimmed === '') onChange(null);
          else if (Number.isFinite(Number(trimmed))) onChange(Number(trimmed));
        }}
      />
      {isWrong && <span className="small">no number</span>}
    </label>
  );
}

function NotBox({
  not,
  words = 'none of these',
  onChange,
}: {
  not: boolean;
  words?: string;
  onChange(not: boolean): void;
}) {
  return (
    <label className="mt-1.5 flex items-center gap-2">
      <input type="checkbox" checked={not} onChange={(event) => onChange(event.target.checked)} />
      {words}
    </label>
  );
}

function Ticks({
  options,
  chosen,
  onChange,
}: {
  options: { value: string; label: string }[];
  chosen: string[];
  onChange(values: string[]): void;
}) {
  return (
    <div className="mt-1.5 max-h-44 overflow-auto">
      {options.length === 0 && <p className="small">There are none yet.</p>}
      {options.map(({ value, label }) => (
        <label key={value} className="flex items-center gap-2 py-px">
          <input
            type="checkbox"
            checked={chosen.includes(value)}
            onChange={(event) =>
              onChange(event.target.checked ? [...chosen, value] : chosen.filter((other) => other !== value))
            }
          />
          <span className="truncate">{label}</span>
        </label>
      ))}
    </div>
  );
}

function WordsField({
  label,
  values,
  separator,
  onChange,
}: {
  label: string;
  values: string[];
  separator: RegExp;
  onChange(values: string[]): void;
}) {
  const [text, setText] = useState(values.join(', '));
  return (
    <label className="mt-1.5 block">
      <span className="small">{label}</span>
      <input
        className="field w-full"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          onChange(
            [
              ...new Set(
                event.target.value
                  .split(separator)
                  .map((word) => word.trim())
                  .filter(Boolean),
              ),
            ].slice(0, MAX_VALUES),
          );
        }}
      />
    </label>
  );
}
