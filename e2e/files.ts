import type { State } from './states';

/** Every file of the browser tests, with the data folder it begins with. The long ones come first, so that two at a time end together. */
export const FILES: Record<string, State> = {
  '93-season': 'listed',
  '9-life': 'listed',
  '3-killed': 'fresh',
  '1-journey': 'fresh',
  '91-dossier': 'told',
  '5-gather': 'listed',
  '8-sieve': 'listed',
  '7-offers': 'listed',
  '9-measures': 'listed',
  '94-after': 'listed',
  '95-kept': 'listed',
  '96-press': 'listed',
  '92-plan': 'told',
  '6-small-disk': 'none',
  '99-restore': 'listed',
  '4-alone': 'none',
  '2-interface': 'listed',
  '97-guide': 'listed',
  '98-decide': 'told',
  '990-real': 'none',
  '991-package': 'none',
  '992-remote': 'none',
};

/** Ports of the product that a worker looks at, and of those that its tests start beside it. */
export const portOf = (beside = 0) => 4400 + 20 * Number(process.env.TEST_PARALLEL_INDEX ?? 0) + beside;
