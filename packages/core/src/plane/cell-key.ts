/** A number for a cell of a square grid. Two cells may share one: whoever looks into a cell compares what is in it. */
export const cellKey = (i: number, j: number): number =>
  (Math.imul(i | 0, 73856093) ^ Math.imul(j | 0, 19349663)) | 0;
