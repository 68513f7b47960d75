/** What a price is reckoned from; amounts in minor units of one currency. */
export interface AskingInputs {
  /** What it is thought to bring; null: not known. */
  lowMinor: number | null;
  highMinor: number | null;
  /** What it cost so far, with fees and renewals. */
  costMinor: number;
  /** What the next renewal costs; null: not known. */
  renewalMinor: number | null;
  /** Of the price, what the venue keeps, 0 to 100. */
  venuePercent: number;
  /** What is wanted over the costs, in per cent of them. */
  marginPercent: number;
}

export interface AskingPrice {
  /** What to ask, and the least to let it go for. */
  askMinor: number;
  floorMinor: number;
  /** What is left of the floor once the venue has its part and the costs are paid; below nothing is a loss. */
  leftAtFloorMinor: number;
  /** The way to both figures, in their order. */
  steps: { words: string; minor: number }[];
  /** What to know before asking so much. */
  warnings: string[];
}

/** Buyers haggle: what is asked lies so much over what is hoped for. */
const ROOM = 1.15;

/**
 * What to ask for a domain and the least to take: asked is the high end of its worth with room to haggle; the floor is the low end of its
 * worth, or what it cost with the margin and the venue's part where that is more.
 *
 * @returns null when neither a worth nor a cost is known: then nothing can be said.
 */
export function askingPrice(inputs: AskingInputs): AskingPrice | null {
  const { lowMinor, highMinor, costMinor, renewalMinor, venuePercent, marginPercent } = inputs;
  if ((lowMinor === null || highMinor === null) && costMinor <= 0) return null;
  const kept = 1 - Math.min(90, Math.max(0, venuePercent)) / 100;
  const wanted = Math.ceil((costMinor * (1 + marginPercent / 100)) / kept);
  const steps = [
    { words: `its costs so far, with ${marginPercent}% over them and the venue’s ${venuePercent}%`, minor: wanted },
  ];
  const warnings: string[] = [];
  let floorMinor = wanted;
  let askMinor = Math.round(wanted * ROOM);
  if (lowMinor !== null && highMinor !== null) {
    steps.unshift(
      { words: 'the low end of its worth', minor: lowMinor },
      { words: 'the high end of its worth', minor: highMinor },
    );
    floorMinor = Math.max(lowMinor, wanted);
    askMinor = Math.max(Math.round(highMinor * ROOM), floorMinor);
    if (wanted > highMinor)
      warnings.push('It cost more than it is thought to be worth: at this floor it may never sell.');
    else if (wanted > lowMinor) warnings.push('The floor is what it cost, not what it is thought to be worth.');
  } else warnings.push('Nothing says what it is worth: both figures come from what it cost.');
  const rounded = { askMinor: roundUp(askMinor), floorMinor: roundUp(floorMinor) };
  steps.push({ words: 'asked: the high end and 15% to haggle', minor: rounded.askMinor });
  steps.push({ words: 'floor: the low end, or what is wanted over the costs', minor: rounded.floorMinor });
  if (renewalMinor !== null && renewalMinor > 0)
    warnings.push('Each year that it does not sell costs its renewal; the floor does not count that.');
  return { ...rounded, leftAtFloorMinor: Math.floor(rounded.floorMinor * kept) - costMinor, steps, warnings };
}

/** To an amount that one would say: two figures that count, and never down. */
export function roundUp(minor: number): number {
  if (minor <= 0) return 0;
  const step = Math.max(100, 10 ** (Math.floor(Math.log10(minor)) - 1));
  return Math.ceil(minor / step) * step;
}
