import type { LeaveOut } from '../../core/crawl/leave-out';

/** What each switch leaves out, as it follows "left out:". */
export const LEAVE_OUT_WORDS: Record<LeaveOut, string> = {
  'known-site': 'on your list of known sites',
  ending: 'its TLD is excluded',
  brief: 'the brief does not want a word of it',
  shared: 'more than 1,000 domains link to it',
  known: 'known already',
  judged: 'judged already',
};
