/**
 * Where values and geometry meet: a value counts base units (0.1 µm, degrees, 1e-8 kg; ADR 2), geometry is in millimetres and radians, and what solids
 * weigh is in kilograms. Whatever goes from one to the other goes by these.
 */

/** A millimetre in base units of length. */
export const MILLIMETRE = 10_000;
/** A cubic millimetre in base units of volume. */
export const CUBIC_MILLIMETRE = MILLIMETRE ** 3;
/** A kilogram in base units of mass. */
export const KILOGRAM = 100_000_000;
/** A radian in degrees, which are the base units of angles. */
export const RADIAN = 180 / Math.PI;
/** A degree in radians. */
export const DEGREE = Math.PI / 180;
