/** A place that a name may say. */
export interface Place {
  /** As it stands in a label: a to z. */
  word: string;
  title: string;
  people: number | null;
  /** A year, in hundredths. */
  growthPercent: number | null;
}

/** A title as letters of a label: "Saint Ossen" is "saintossen"; marks over letters are left out. */
export function wordOf(title: string): string {
  return title
    .normalize('NFD')
    .toLowerCase()
    .replace(/[^a-z0-9]/g, '')
    .slice(0, 40);
}

/** Bounds of the places that are wanted; null: none. */
export interface PlaceCut {
  leastPeople: number | null;
  /** The very biggest have every name taken. */
  mostPeople: number | null;
  leastGrowthPercent: number | null;
}

/** Places within bounds, the largest first. What is not known passes none of the bounds that are set. */
export function cutPlaces(
  places: readonly Place[],
  { leastPeople, mostPeople, leastGrowthPercent }: PlaceCut,
): Place[] {
  return places
    .filter(({ people, growthPercent }) => {
      if (leastPeople !== null && (people === null || people < leastPeople)) return false;
      if (mostPeople !== null && (people === null || people > mostPeople)) return false;
      return leastGrowthPercent === null || (growthPercent !== null && growthPercent >= leastGrowthPercent);
    })
    .sort((a, b) => (b.people ?? 0) - (a.people ?? 0) || a.word.localeCompare(b.word));
}
