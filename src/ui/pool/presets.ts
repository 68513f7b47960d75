import type { SievePart, Sort } from '../../core/pool/conditions';

/** A starting point for one kind of work, with the reason for every threshold. */
export interface Preset {
  id: string;
  name: string;
  lead: string;
  parts: { part: SievePart; reason: string }[];
  sorts: Sort[];
}

const LAPSED: SievePart = {
  type: 'choice',
  fact: 'phase',
  values: ['free', 'pending-delete', 'redemption'],
  not: false,
  keepUnknown: false,
};
const UNJUDGED: SievePart = { type: 'choice', fact: 'judged', values: ['not-yet'], not: false, keepUnknown: false };
const range = (
  fact: Extract<SievePart, { type: 'range' }>['fact'],
  min: number | null,
  max: number | null,
  keepUnknown = false,
): SievePart => ({
  type: 'range',
  fact,
  min,
  max,
  keepUnknown,
});

export const PRESETS: Preset[] = [
  {
    id: 'resell',
    name: 'Names to sell on',
    lead: 'Short, easy to say, not yet looked at.',
    parts: [
      {
        part: range('length', null, 14),
        reason: 'Fourteen letters is about what is read at a glance and typed without a slip.',
      },
      { part: range('words', 1, 2), reason: 'One or two words can be said once and spelled; three are a sentence.' },
      { part: range('hyphens', null, 0), reason: 'A hyphen has to be explained every time the name is said.' },
      { part: range('digits', null, 0), reason: 'Digits are asked back: the word or the figure?' },
      { part: UNJUDGED, reason: 'What you have judged already stays out of the way.' },
    ],
    sorts: [
      { fact: 'closing', descending: false },
      { fact: 'length', descending: false },
    ],
  },
  {
    id: 'rebuild',
    name: 'Sites to bring back',
    lead: 'Lapsed, once real, linked to by sites that are trusted.',
    parts: [
      { part: LAPSED, reason: 'Only what can be had, or soon.' },
      {
        part: range('referringDomains', 3, null),
        reason: 'One or two sites that link may be the owner’s own; three are seldom chance.',
      },
      { part: range('captures', 4, null), reason: 'Fewer than four captures say too little of what was there.' },
      {
        part: range('trustShare', 0.3, null),
        reason: 'Under about a third, most of the strength comes from sites nobody vouches for.',
      },
      {
        part: range('spamRisk', null, 35, true),
        reason: 'Above 35 several rules of the scorecard spoke at once. Not yet measured: kept.',
      },
      { part: UNJUDGED, reason: 'What you have judged already stays out of the way.' },
    ],
    sorts: [
      { fact: 'trust', descending: true },
      { fact: 'referringDomains', descending: true },
    ],
  },
  {
    id: 'redirect',
    name: 'Links to point elsewhere',
    lead: 'The referring sites count; the name hardly matters.',
    parts: [
      { part: LAPSED, reason: 'Only what can be had, or soon.' },
      {
        part: range('referringDomains', 5, null),
        reason: 'A redirect carries what domains count, not of pages: under five it is rarely worth a year’s fee.',
      },
      {
        part: range('trust', 5, null),
        reason: 'At least one short path from a trusted site, or nothing relevant comes along.',
      },
      {
        part: range('spamRisk', null, 25),
        reason: 'A redirect hands the risk on to the site you already run, so less is borne here.',
      },
    ],
    sorts: [
      { fact: 'referringDomains', descending: true },
      { fact: 'trust', descending: true },
    ],
  },
  {
    id: 'prospect',
    name: 'Dead pages many link to',
    lead: 'For writing to those who link, with a page of yours in its place.',
    parts: [
      {
        part: range('referringDomains', 8, null),
        reason: 'Under eight sites to write to, the afternoon is not worth it.',
      },
      {
        part: range('lastSeen', 0.5, null, true),
        reason: 'Half a year without a capture: the owner is unlikely to put the page back.',
      },
      {
        part: { type: 'choice', fact: 'phase', values: ['active'], not: true, keepUnknown: true },
        reason: 'A domain that is kept up may answer again tomorrow.',
      },
    ],
    sorts: [
      { fact: 'referringDomains', descending: true },
      { fact: 'readers', descending: true },
    ],
  },
];
