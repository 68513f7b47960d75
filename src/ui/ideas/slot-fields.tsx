'use client';

import type { Place, PlaceCut } from '../../core/ideas/places';
import { count } from '../../core/wording/format';
import { draftOf, KIND_TITLES, SLOT_KINDS, type SlotDraft, type SlotKind } from './slots';

const CUTS: [key: keyof PlaceCut, words: string][] = [
  ['leastPeople', 'people from'],
  ['mostPeople', 'to'],
  ['leastGrowthPercent', 'growth from, %'],
];

/** One slot of a pattern: where its words come from, and which they are. */
export function SlotFields({
  number,
  slot,
  places,
  briefWords,
  words,
  onChange,
  onRemove,
}: {
  number: number;
  slot: SlotDraft;
  places: Place[];
  briefWords: string[];
  /** How many the slot has now. */
  words: number;
  onChange(slot: SlotDraft): void;
  /** null: it is the only one. */
  onRemove: (() => void) | null;
}) {
  return (
    <fieldset className="mb-3 border-t border-rule pt-2">
      <legend className="sr-only">Slot {number}</legend>
      <div className="flex items-center gap-2">
        <span className="small">{number}</span>
        <select
          className="field py-0.5"
          aria-label={`Words of slot ${number}`}
          value={slot.kind}
          onChange={(event) => onChange(draftOf(event.target.value as SlotKind, briefWords))}
        >
          {SLOT_KINDS.map((kind) => (
            <option key={kind} value={kind} disabled={kind === 'places' && places.length === 0}>
              {KIND_TITLES[kind]}
            </option>
          ))}
        </select>
        <span className="small">{count(words)}</span>
        <label className="ml-auto flex items-center gap-1">
          <input
            type="checkbox"
            checked={slot.isOptional}
            onChange={(event) => onChange({ ...slot, isOptional: event.target.checked })}
          />
          may be left out
        </label>
        {onRemove && (
          <button type="button" className="quiet" aria-label={`Take slot ${number} away`} onClick={onRemove}>
            ×
          </button>
        )}
      </div>
      {slot.kind === 'places' ? (
        <div className="mt-1.5 flex gap-2">
          {CUTS.map(([key, title]) => (
            <label key={key}>
              <span className="small block">{title}</span>
              <input
                className="field w-24 py-0.5 text-right"
                inputMode="decimal"
                aria-label={`${title} of slot ${number}`}
                defaultValue={slot.cut[key] ?? ''}
                onChange={(event) => {
                  const value = event.target.value.trim();
                  const bound = value === '' || !Number.isFinite(Number(value)) ? null : Number(value);
                  onChange({ ...slot, cut: { ...slot.cut, [key]: bound } });
                }}
              />
            </label>
          ))}
        </div>
      ) : (
        <textarea
          className="field mt-1.5 h-16 w-full resize-y"
          aria-label={`Which words in slot ${number}`}
          value={slot.text}
          onChange={(event) => onChange({ ...slot, text: event.target.value })}
        />
      )}
    </fieldset>
  );
}
