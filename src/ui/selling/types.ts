import type { AskingInputs } from '../../core/selling/asking';
import type { SellingSentence } from '../../core/selling/listing-text';
import type { AnswerAdvice, Inquiry } from '../../core/selling/talk';

export interface InquiryShown extends Inquiry {
  advice: AnswerAdvice | null;
  isAnswering: boolean;
}

export interface SaleShown {
  id: number;
  name: string;
  venue: string;
  askMinor: number;
  floorMinor: number;
  currency: string;
  text: string;
  state: string;
  finalMinor: number | null;
  feesMinor: number | null;
  reason: string | null;
  createdAt: number;
  answeredAt: number | null;
  endedAt: number | null;
  inquiries: InquiryShown[];
  log: { at: number; who: string; words: string }[];
}

export interface SalePlanShown {
  holding: { status: string; boughtAt: number; seller: string } | null;
  currency: string;
  inputs: AskingInputs;
  near: { name: string; priceMinor: number; at: number; distance: number; adjustedMinor: number }[];
  sentences: SellingSentence[];
  against: string[];
  venues: { venue: string; currency: string; perHome: number | null }[];
  isDryRun: boolean;
  sales: SaleShown[];
}
