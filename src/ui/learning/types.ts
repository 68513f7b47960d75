import type { Calibration, RangeRecord } from '../../core/learning/calibration';
import type { WindowRecord } from '../../core/learning/windows';
import type { CarriedOutcome } from '../../core/redirects/access-log';

export interface SuggestionShown {
  key: string;
  words: string;
  evidence: string;
  effect: string;
  now: string;
  suggested: string;
  path: string;
  change: Record<string, unknown>;
  back: Record<string, unknown>;
}

export interface RedirectOutcome {
  name: string;
  planned: { moved: number; relevant: number } | null;
  came: CarriedOutcome | null;
  from: number | null;
  to: number | null;
}

export interface LearningShown {
  wins: Calibration;
  winsByVenue: { key: string; calibration: Calibration }[];
  winsByPurpose: { key: string; calibration: Calibration }[];
  worth: RangeRecord;
  worthByPurpose: { key: string; record: RangeRecord }[];
  spam: Calibration;
  windows: WindowRecord[];
  windowsAll: WindowRecord;
  redirects: RedirectOutcome[];
  suggestions: SuggestionShown[];
}
