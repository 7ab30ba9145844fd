import { bendsOf, type Plate, type Point, type Sheet } from "@hillcrest/core";

/** A place of the flat sheet in a plate's own frame. */
export function inPlate(_sheet: Sheet, plate: Plate, at: Point): Point {
  const { origin, x } = plate.frame;
  const [du, dv] = [at.x - origin.x, at.y - origin.y];
  return { x: du * x.x + dv * x.y, y: -du * x.y + dv * x.x };
}

/** A leg's holes count from the outer mould line, which stands one setback before the leg. */
export function overMouldLine(sheet: Sheet, plate: Plate, at: Point): Point {
  const { x, y } = inPlate(sheet, plate, at);
  const bend = bendsOf(sheet).find((b) => b.child === plate.id);
  const setback = bend && bend.angle < Math.PI ? Math.tan(bend.angle / 2) * (bend.radius + sheet.t) : 0;
  return { x, y: y + setback };
}
