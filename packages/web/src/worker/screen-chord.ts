/** How far the mesh on screen may be off a curve, mm. */
export const SCREEN_CHORD = 0.05;
