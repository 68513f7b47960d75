/**
 * How far a question goes: the registry's record; down to the registrar where that leaves a name free; or in full, which reads the
 * record also of a name that DNS delegates.
 */
export const QUESTION_DEPTHS = ['record', 'registrar', 'full'] as const;
