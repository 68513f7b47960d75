import type { Letter } from '../../core/prospecting/letter';
import type { ProspectState } from '../../core/prospecting/prospects';
import type { Candidate } from '../../core/redirects/match';

export interface TargetLine {
  url: string;
  domain: string;
  status: number | null;
  outcome: string;
  checkedAt: number | null;
  pages: number;
  domains: number;
  isWholeDomain: boolean;
  onList: number;
}

export interface ChosenTarget {
  url: string;
  domain: string;
  links: {
    page: string;
    title: string | null;
    anchor: string;
    nofollow: number;
    contact: string | null;
    contactPage: string | null;
    strength: number | null;
    isListed: boolean;
  }[];
  candidates: Candidate[];
  standIn: string | null;
  hasOwnPages: boolean;
}

export interface ProspectLine {
  target: string;
  page: string;
  title: string | null;
  anchor: string;
  contact: string | null;
  state: ProspectState;
  note: string;
  writtenAt: number | null;
  answeredAt: number | null;
  standIn: string | null;
  next: { words: string; isDue: boolean };
  letter: Letter | null;
  mail: string | null;
}

export interface WorkListShown {
  tally: { toWrite: number; written: number; answered: number | null; changed: number | null };
  rows: ProspectLine[];
}
