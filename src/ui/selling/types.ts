import type { Answer } from '../../contracts/calls';
import type { AskingInputs } from '../../core/selling/asking';
import type { SellingSentence } from '../../core/selling/listing-text';

export type InquiryShown = SaleShown['inquiries'][number];
export type SaleShown = Answer<'GET /resales'>['sales'][number];

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
