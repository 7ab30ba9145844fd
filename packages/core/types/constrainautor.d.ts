/**
 * What the package's own types say of what is used here. Those are TypeScript sources, which would be
 * checked by our rules and fail.
 */
import type Delaunator from "delaunator";

export default class Constrainautor {
  /** Changes the triangulation in place. */
  constructor(triangulation: Delaunator<ArrayLike<number>>);
  /** Makes an edge between two points one of the triangulation; throws where a point stands on it or a constrained edge crosses it. */
  constrainOne(from: number, to: number): number;
}
