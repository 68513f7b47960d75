/** What a person begins with, and what they are after. */
export const PURPOSES = {
  list: 'a list of names',
  sites: 'sites that I trust, to crawl',
  referrers: 'the referrers of a competitor',
  backlinks: 'backlink data',
  logins: 'accounts at venues or a registrar',
  register: 'register names that are free',
  bid: 'bid on names that are offered',
  rebuild: 'bring an old site back',
  redirect: 'redirect a name to a site of mine',
  sell: 'sell names again',
  told: 'be told what is new by mail',
} as const;
export type Purpose = keyof typeof PURPOSES;
export const PURPOSE_NAMES = Object.keys(PURPOSES) as [Purpose, ...Purpose[]];
/** The others are what somebody is after. */
export const HAVES: readonly Purpose[] = ['list', 'sites', 'referrers', 'backlinks', 'logins'];

/** Purposes by their names, others left out. */
export const purposesOf = (names: readonly string[]): Purpose[] =>
  PURPOSE_NAMES.filter((purpose) => names.includes(purpose));
