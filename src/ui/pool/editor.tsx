'use client';

import { useEffect, useState } from 'react';
import { type Condition, TEXT_MODES } from '../../core/pool/conditions';
import { factSpec } from '../../core/pool/facts';
import type { PoolAnswer } from '../../core/pool/query';
import { Histogram } from './histogram';
import { wordFor } from './sentences';

interface EditorProps {
  condition: Condition;
  histogram: PoolAnswer['histograms'][number] | undefined;
  sources: { id: number; name: string }[];
  onChange(condition: Condition): void;
}

/** Fields for the values of the condition that is being worked on. */
export function Editor({ condition, histogram, sources, onChange }: EditorProps) {
  switch (condition.type) {
    case 'range':
      return (
        <>
          {histogram && (
            <Histogram
              bars={histogram}
              min={condition.min}
              max={condition.max}
              onPick={(value) => onChange(withNearerBound(condition, value))}
            />
          )}
          <div className="mt-2 flex items-center gap-2">
            <NumberField label="at least" value={condition.min} onChange={(min) => onChange({ ...condition, min })} />
            <NumberField label="at most" value={condition.max} onChange={(max) => onChange({ ...condition, max })} />
          </div>
          {factSpec(condition.fact).optional && (
            <label className="mt-1.5 flex items-center gap-2">
              <input
                type="checkbox"
                checked={condition.keepUnknown}
                onChange={(event) => onChange({ ...condition, keepUnknown: event.target.checked })}
              />
              keep domains whose value is not known
            </label>
          )}
        </>
      );
    case 'choice': {
      const choices = factSpec(condition.fact).choices;
      return (
        <>
          <NotBox not={condition.not} onChange={(not) => onChange({ ...condition, not })} />
          {choices ? (
            <Ticks
              options={choices.map((value) => ({ value, label: wordFor(value) }))}
              chosen={condition.values}
              onChange={(values) => onChange({ ...condition, values })}
            />
          ) : (
            <WordsField
              label="Endings, by commas"
              values={condition.values}
              onChange={(values) => onChange({ ...condition, values })}
            />
          )}
        </>
      );
    }
    case 'member':
      return (
        <>
          <NotBox not={condition.not} onChange={(not) => onChange({ ...condition, not })} />
          <Ticks
            options={sources.map(({ id, name }) => ({ value: String(id), label: name }))}
            chosen={condition.values.map(String)}
            onChange={(values) => onChange({ ...condition, values: values.map(Number) })}
          />
        </>
      );
    case 'text':
      return (
        <>
          <div className="mt-1.5 flex items-center gap-2">
            <select
              aria-label="How the name is matched"
              className="field"
              value={condition.mode}
              onChange={(event) => onChange({ ...condition, mode: event.target.value as typeof condition.mode })}
            >
              {TEXT_MODES.map((mode) => (
                <option key={mode} value={mode}>
                  {{ contains: 'contains', starts: 'starts with', ends: 'ends with', is: 'is' }[mode]}
                </option>
              ))}
            </select>
            <NotBox not={condition.not} onChange={(not) => onChange({ ...condition, not })} />
          </div>
          <WordsField
            label="Letters, by commas"
            values={condition.values}
            onChange={(values) => onChange({ ...condition, values })}
            autoFocus
          />
          <p className="small mt-1">
            Letters anywhere in the name before its ending; a word inside another counts too.
          </p>
        </>
      );
  }
}

/** Moves the bound that is nearer to the value, or sets the lower one. */
function withNearerBound(condition: Extract<Condition, { type: 'range' }>, value: number): Condition {
  const { min, max } = condition;
  if (max !== null && (min === null || Math.abs(max - value) < Math.abs(min - value)))
    return { ...condition, max: value };
  return { ...condition, min: value };
}

function NumberField({
  label,
  value,
  onChange,
}: {
  label: string;
  value: number | null;
  onChange(value: number | null): void;
}) {
  const [text, setText] = useState(value === null ? '' : String(value));
  useEffect(() => setText(value === null ? '' : String(value)), [value]);
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
    </label>
  );
}

function NotBox({ not, onChange }: { not: boolean; onChange(not: boolean): void }) {
  return (
    <label className="mt-1.5 flex items-center gap-2">
      <input type="checkbox" checked={not} onChange={(event) => onChange(event.target.checked)} />
      none of these
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
  onChange,
  autoFocus,
}: {
  label: string;
  values: string[];
  onChange(values: string[]): void;
  autoFocus?: boolean;
}) {
  const [text, setText] = useState(values.join(', '));
  return (
    <label className="mt-1.5 block">
      <span className="small">{label}</span>
      <input
        className="field w-full"
        value={text}
        // biome-ignore lint/a11y/noAutofocus: the person has just asked for this field
        autoFocus={autoFocus}
        onChange={(event) => {
          setText(event.target.value);
          onChange(
            [
              ...new Set(
                event.target.value
                  .toLowerCase()
                  .split(/[\s,;]+/)
                  .filter(Boolean),
              ),
            ].slice(0, 2000),
          );
        }}
      />
    </label>
  );
}
