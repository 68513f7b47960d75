/** Subjects that abused names are used for. */
export const RISKY_SUBJECTS = /^(adult\.(?!parked)|games\.gambling|business\.loans)/;
