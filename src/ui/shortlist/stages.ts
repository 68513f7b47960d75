/** Where a shortlisted domain stands, in order, and what to do next. */
export const STAGE_STEPS = [
  ['to inspect', 'read its dossier'],
  ['wanted', 'set a maximum bid'],
  ['to act on', 'bid, backorder or register'],
  ['waiting', 'wait for the outcome'],
  ['had', 'it is yours'],
  ['let go', 'nothing more'],
] as const;

export type StageName = (typeof STAGE_STEPS)[number][0];
