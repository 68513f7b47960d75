export const TICK_PX = 28;
