/** Days ago of the demo's three autumns and springs, the oldest first; each unit a little otherwise. */
export const AUTUMNS = [762, 398, 33] as const;
export const SPRINGS = [950, 588, 222] as const;
/** Days ago on which rods were renewed, in the spring before last. */
export const ROD_FITTED_DAYS = 588;
