/** Coined places of the Merrow Vale. */
export const PLACES = [
  'Ossenmere', 'Cradlewick', 'Thornabeck', 'Pellgate', 'Mirrowby', 'Dunscarrow', 'Lathergill', 'Quillbrook',
  'Brindlefell', 'Tallowend', 'Fennimoor', 'Harrowmead', 'Wexcombe', 'Skeldrake', 'Marlowick', 'Ottergarth',
  'Pinderwell', 'Rushenby', 'Sallowmere', 'Tarnwick', 'Umberley', 'Vennacre', 'Withypool', 'Yarnbeck', 'Aldermoss',
  'Bramwithy', 'Corbelgate', 'Dapplecombe', 'Eskerby', 'Fallowgill', 'Gantrymoor', 'Hollinwick', 'Inglemere',
  'Jessamby', 'Kettleshaw', 'Lintfold', 'Mosscarrow', 'Nettlewick', 'Orchelby', 'Pilgarth',
]; // biome-ignore format: a list

export interface Subject {
  id: string;
  title: string;
  /** Trade words that stand in names. */
  names: string[];
  /** Words of texts. */
  words: string[];
}

export const SUBJECTS: Subject[] = [
  {
    id: 'bees',
    title: 'Beekeeping',
    names: ['bee', 'bees', 'hive', 'hives', 'honey', 'apiary', 'swarm', 'skep', 'nectar', 'wax', 'comb', 'mead'],
    words: ['colony', 'queen', 'brood', 'frame', 'forage', 'heather', 'swarm', 'smoker', 'super', 'varroa', 'nectar', 'propolis', 'comb', 'drone', 'winter', 'inspection', 'honey', 'hive', 'pollen', 'stand'],
  },
  {
    id: 'press',
    title: 'Letterpress',
    names: ['press', 'type', 'letterpress', 'ink', 'paper', 'platen', 'proof', 'bindery', 'print', 'quoin', 'bookcraft'],
    words: ['type', 'forme', 'composing', 'ink', 'roller', 'platen', 'proof', 'paper', 'quoin', 'leading', 'case', 'sorts', 'bindery', 'woodcut', 'chase', 'impression', 'galley', 'ligature', 'press', 'sheet'],
  },
  {
    id: 'sky',
    title: 'Dark skies',
    names: ['darksky', 'stars', 'astro', 'telescope', 'nightsky', 'comet', 'observatory', 'meteor', 'eclipse', 'lunar'],
    words: ['telescope', 'eyepiece', 'cluster', 'nebula', 'meteor', 'planet', 'aperture', 'lantern', 'horizon', 'observing', 'comet', 'mount', 'mirror', 'chart', 'night', 'moon', 'shower', 'constellation', 'seeing', 'glow'],
  },
  {
    id: 'vale',
    title: 'Life in the vale',
    names: ['market', 'walks', 'garden', 'bakery', 'choir', 'cycles', 'orchard', 'mill', 'archives', 'beech', 'combat', 'waxwing', 'school', 'pottery', 'theatre', 'cricket', 'bridge', 'weaver'],
    words: ['market', 'footpath', 'orchard', 'parish', 'river', 'village', 'bridge', 'summer', 'committee', 'harvest', 'school', 'garden', 'society', 'history', 'archive', 'walk', 'choir', 'fair', 'mill', 'hall'],
  },
]; // biome-ignore format: lists of words

export const TAILS = [
  'club', 'society', 'guild', 'shop', 'supply', 'works', 'notes', 'diary', 'school', 'fair', 'week', 'trust', 'path',
  'map', 'log', 'plans', 'house', 'rescue', 'journal', 'census', 'store', 'friends', 'online', 'yard', 'group', 'weekly',
  'hub', 'direct', 'home', 'news', 'world', 'days', 'lane', 'corner',
]; // biome-ignore format: a list

/** Endings with their share of names. */
export const ENDINGS: [ending: string, share: number][] = [
  ['com', 0.44],
  ['org', 0.2],
  ['net', 0.12],
  ['co.uk', 0.1],
  ['info', 0.06],
  ['de', 0.04],
  ['eu', 0.02],
  ['me', 0.02],
];

export const REGISTRARS = [
  'Coombe Names',
  'Pennywhistle Domains',
  'Tarn and Daughters',
  'Lodestone Registry Services',
  'Hobb Lane Names',
];

export const OPENERS = [
  'A short history of',
  'Notes on',
  'What we learned about',
  'Keeping',
  'A visit to',
  'Questions about',
  'Members write about',
  'The year in',
  'How to begin with',
  'Repairing',
];
