/** What worth is reckoned with where nobody counted: assumptions, shown with every figure and changed in the brief. */
export interface WorthAssumptions {
  /** Share of searches that click the first result, in hundredths; lower places get parts of it (`clickShare`). */
  firstClickPercent: number;
  /** What visits that ask for the old owner's own name are worth to anybody else, in hundredths. */
  ownNamePercent: number;
  /** Years off line after which half of the places in searches are lost. */
  halfLifeYears: number;
  /** What the strongest competition for a phrase takes of its visits, in hundredths. */
  competitionPercent: number;
  /** Months for which visits are counted. */
  earningMonths: number;
  /** Price of a followed link from a site of the subject with a strength of 20, in minor units. */
  linkMinor: number;
  /** Steps of strength that double the price of a link. */
  linkDoubling: number;
  /** What a link from a site of another subject counts, in hundredths. */
  otherSubjectPercent: number;
  /** What a redirect carries over of a link, in hundredths. */
  carryPercent: number;
}

export const ASSUMPTIONS: WorthAssumptions = {
  firstClickPercent: 28,
  ownNamePercent: 5,
  halfLifeYears: 1,
  competitionPercent: 60,
  earningMonths: 24,
  linkMinor: 1500,
  linkDoubling: 10,
  otherSubjectPercent: 10,
  carryPercent: 50,
};

/** A worth as a range that is meant to hold six times in ten, in minor units. */
export interface WorthRange {
  lowMinor: number;
  middleMinor: number;
  highMinor: number;
}

/** A range around a middle by a factor: nothing was sold that could narrow it. */
export function rangeAround(middleMinor: number, factor: number): WorthRange {
  return {
    lowMinor: Math.round(middleMinor / factor),
    middleMinor: Math.round(middleMinor),
    highMinor: Math.round(middleMinor * factor),
  };
}
