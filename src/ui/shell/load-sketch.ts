/** The code of the sketch canvas, which stands in the place of the solid while a sketch is open. */
export const loadSketch = () => import('../sketch-canvas/sketch-canvas');
