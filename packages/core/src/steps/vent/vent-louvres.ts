import type { FieldValues } from "../../fields/field.ts";
import { sectionPlaces } from "../../forming/section.ts";
import { moveLoop, rotation, translation } from "../../plane/isometry.ts";
import { type Loop, loopArea, loopFromFrame } from "../../plane/loop.ts";
import { type Frame, fromFrame, point } from "../../plane/point.ts";
import { workAllMetal } from "../../sheet/draft.ts";
import type { DraftPlate } from "../../sheet/draft-pieces.ts";
import { featureAt } from "../../sheet/feature.ts";
import type { MetalOp } from "../../sheet/shaping/metal-op.ts";
import { ownForm } from "../../stock/forms/own-forms.ts";
import { type ResolvedForm, resolveForm } from "../../stock/forms/resolve-form.ts";
import { formatShort } from "../../units/quantity.ts";
import { mm, mm2 } from "../../units/spoken-length.ts";
import { ALL_LEFT_OUT, fillArea, MOST_PLACES, placeMark, withoutLeftOut } from "../arrangement.ts";
import { formedLook, formedWork } from "../formed-work.ts";
import { frameAt } from "../place-values.ts";
import type { StepContext } from "../step-kind.ts";

/** A vent may have this many louvres. */
const MOST_LOUVRES = 5000;

/** The fields of a vent by the names of the louvre's own values. */
const KEYS: Readonly<Record<string, string>> = { l: "louvreLength", w: "louvreDepth", h: "louvreHeight" };

interface VentPlace {
  readonly plate: DraftPlate;
  readonly frame: Frame;
  /** The border about its place. */
  readonly border: readonly Loop[];
}

/** What stands open under the free edge of a louvre, mm²: between the plate and the lifted edge, seen square on. */
export function openUnder({ shape, values }: ResolvedForm, t: number): number {
  const places = sectionPlaces(shape, t, 1e-3);
  let end = 0;
  for (let i = 0; i + 1 < places.length; i++) {
    const [p, q] = [places[i], places[i + 1]];
    end += ((q.inA - p.inA) * (p.upA + q.upA)) / 2;
  }
  const { inA: reach, upA: rise } = places[places.length - 1];
  // Both ends rise as the section does; between them the edge stands at its height. Side A is what is open below.
  return 2 * end + Math.max(0, values.l - 2 * reach) * rise;
}

/** Fills a vent with rows of louvres, each as far from the border as is asked. */
export function formLouvres(values: FieldValues, context: StepContext, { plate, frame, border }: VentPlace) {
  const { step, draft, refuse } = context;
  const { quantities: q, choices } = values;
  const item = ownForm("louvre")!;
  const found = resolveForm(item, (name) => q[KEYS[name]], draft.t);
  if (!found.ok) return refuse(KEYS[found.error.value ?? "w"], found.error.message);
  const form = found.value;
  const [across, rows] = [(q.louvreLength ?? 0) + (q.between ?? 0), q.louvreRows ?? 0];
  if (rows < (q.louvreDepth ?? 0) + 1e-6)
    return refuse(
      "louvreRows",
      `Louvres ${mm(q.louvreDepth ?? 0)} deep must stand in rows farther apart than that.`,
    );
  const turn = q.direction ?? 0;
  const turned = moveLoop(rotation(point(0, 0), turn), form.outline);
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const lattice = { u: point(c * across, s * across), v: point(-s * rows, c * rows), shift: 0 };
  const areas = border.map((outer) => ({ outer, holes: [] }));
  const places = fillArea(areas, [turned], lattice, q.margin ?? 0, undefined);
  if (!places || places.length > MOST_LOUVRES)
    return refuse(
      "louvreRows",
      `There would be more than ${places ? MOST_LOUVRES : MOST_PLACES} louvres. Put them farther apart.`,
    );
  if (places.length === 0)
    return refuse(
      "louvreLength",
      "Not one louvre fits within the border. Make them smaller, or the border larger.",
    );
  const left = withoutLeftOut(values, places);
  if (!left) return refuse(ALL_LEFT_OUT.field, ALL_LEFT_OUT.message);
  const work = formedWork(item, form, { turn: choices.turn, onBlank: "own" });
  const look = formedLook(form);
  const { x } = frameAt({ frame }, point(0, 0), turn);
  const ops = left.map(({ i, j, at }): MetalOp => {
    const there = moveLoop(translation(at), turned);
    const id = `${step}${placeMark(i, j)}`;
    const place = { origin: fromFrame(frame, at), x };
    const feature = featureAt({ id, step, look, piece: `plate:${plate.id}` }, place);
    return {
      kind: "form",
      step,
      loops: [loopFromFrame(frame, there)],
      formed: work,
      name: `form:${id}`,
      feature,
    };
  });
  workAllMetal(draft, { plate: plate.id }, ops);
  const whole = border.reduce((sum, l) => sum + loopArea(l), 0);
  const open = left.length * openUnder(form, draft.t);
  context.note(
    "margin",
    `${left.length} ${left.length === 1 ? "louvre" : "louvres"}, ${mm2(open)} open under them, ${formatShort((100 * open) / whole, 1)} %`,
  );
}
