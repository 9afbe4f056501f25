/** Resistance of a copper conductor of one square millimetre, ohm per metre at 20 C. */
export const COPPER_OHM_MM2_PER_M = 0.017241;
/** By which share copper's resistance rises with each degree (at 20 °C). */
export const COPPER_PER_DEGREE = 0.00393;
