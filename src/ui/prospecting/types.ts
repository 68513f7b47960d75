import type { Answer } from '../../contracts/calls';
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
export type ProspectLine = WorkListShown['rows'][number];

export type WorkListShown = Answer<'GET /prospects'>;
