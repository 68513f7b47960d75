import type { CaptureKind } from '../history/capture';
import type { Past } from '../history/past';
import { subjectTitle } from '../topics/subjects';
import { RISKY_SUBJECTS, type SpamPast } from './rules';

/** A capture as the rules read it. */
export interface SignCapture {
  at: number;
  kind: CaptureKind;
  title: string;
  subject: string | null;
  redirectTo: string | null;
}

const MOST_NOTES = 4;

/** What captures and the past made of them say to the spam rules; null when none was read. */
export function pastSigns(
  captures: readonly SignCapture[],
  past: Pick<Past, 'languageSwitches' | 'subjectSwitches' | 'drift' | 'eras'>,
): SpamPast | null {
  if (captures.length === 0) return null;
  const share = (some: readonly unknown[]) => some.length / captures.length;
  const year = (at: number) => new Date(at).getUTCFullYear();
  const notes = (some: readonly SignCapture[], words: (capture: SignCapture) => string) =>
    [...new Set(some.map((capture) => `${year(capture.at)}: ${words(capture)}`))].slice(0, MOST_NOTES);
  const parked = captures.filter(({ kind }) => kind === 'parked' || kind === 'for-sale');
  const redirected = captures.filter(({ kind }) => kind === 'redirect');
  const risky = captures.filter(({ kind, subject }) => kind === 'content' && RISKY_SUBJECTS.test(subject ?? ''));
  const content = past.eras.filter(({ kind }) => kind === 'content');
  return {
    captures: captures.length,
    parked: share(parked),
    redirected: share(redirected),
    risky: share(risky),
    languageSwitches: past.languageSwitches,
    subjectSwitches: past.subjectSwitches,
    drift: past.drift,
    notes: {
      parked: notes(parked, ({ kind }) => (kind === 'parked' ? 'parked' : 'for sale')),
      redirected: notes(redirected, ({ redirectTo }) => `to ${redirectTo ?? 'another domain'}`),
      risky: notes(risky, ({ title, subject }) => `${subjectTitle(subject ?? '')}${title ? `, "${title}"` : ''}`),
      switches:
        past.languageSwitches + past.subjectSwitches === 0
          ? []
          : content.map(({ from, language, subject }) =>
              [year(from), subject ? subjectTitle(subject) : 'no clear subject', language ?? ''].join(' ').trim(),
            ),
    },
  };
}
