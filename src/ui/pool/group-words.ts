import type { GroupMode } from '../../core/pool/conditions';

export const GROUP_WORDS: Record<GroupMode, string> = {
  all: 'All of these',
  any: 'Any of these',
  none: 'None of these',
};
