import { AFTER, BEFORE } from '../../core/ideas/lists';
import type { Slot } from '../../core/ideas/pattern';
import { cutPlaces, type Place, type PlaceCut, wordOf } from '../../core/ideas/places';

/** Where the words of a slot come from. */
export const SLOT_KINDS = ['brief', 'places', 'before', 'after', 'own'] as const;
export type SlotKind = (typeof SLOT_KINDS)[number];

export const KIND_TITLES: Record<SlotKind, string> = {
  brief: 'words of the brief',
  places: 'places',
  before: 'words before',
  after: 'words after',
  own: 'words of my own',
};

/** A slot as it is composed. */
export interface SlotDraft {
  kind: SlotKind;
  /** Words as typed, for every kind but places. */
  text: string;
  cut: PlaceCut;
  isOptional: boolean;
}

export const NO_CUT: PlaceCut = { leastPeople: null, mostPeople: null, leastGrowthPercent: null };

/** Words by spaces, commas or lines, as they may stand in a label; each once. */
export function wordsIn(text: string): string[] {
  return [
    ...new Set(
      text
        .split(/[\s,;]+/)
        .map(wordOf)
        .filter(Boolean),
    ),
  ];
}

export function draftOf(kind: SlotKind, briefWords: readonly string[]): SlotDraft {
  const texts: Record<SlotKind, string> = {
    brief: wordsIn(briefWords.join(' ')).join(' '),
    places: '',
    before: BEFORE.join(' '),
    after: AFTER.join(' '),
    own: '',
  };
  return { kind, text: texts[kind], cut: NO_CUT, isOptional: false };
}

/** The slot that a draft makes. */
export function slotOf({ kind, text, cut, isOptional }: SlotDraft, places: readonly Place[]): Slot {
  const words = kind === 'places' ? cutPlaces(places, cut).map(({ word }) => word) : wordsIn(text);
  return { title: KIND_TITLES[kind], words, isOptional };
}

/** A slot of a run as a draft again: its words as they were. */
export function draftOfSlot({ title, words, isOptional }: Slot): SlotDraft {
  const kind = SLOT_KINDS.find((one) => KIND_TITLES[one] === title) ?? 'own';
  // places were cut then; what they were is kept as words
  return { kind: kind === 'places' ? 'own' : kind, text: words.join(' '), cut: NO_CUT, isOptional };
}
