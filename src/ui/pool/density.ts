/** Heights of a row in px. */
export const DENSITIES = { close: 24, usual: 29, wide: 38 } as const;
export type Density = keyof typeof DENSITIES;
