import { formatFixed, formatShort } from "@hillcrest/core";
import { BreakEnd, Dimension } from "./drawing-marks.tsx";
import type { Spot, StudyLayout } from "./study-layout.ts";

/** The section of a bend: metal, faces, tangent lines, neutral axis, and what its sizes are called. */
export function SectionDrawing({ layout }: { layout: StudyLayout }) {
  const { given, legs, px, path, arc, face, onLegB } = layout;
  const { t, r, k } = given;
  return (
    <g>
      <text x={18} y={20} className="fill-quiet text-[12.5px] font-semibold">
        Section
      </text>
      <g strokeLinejoin="round">
        <path d={path([...face(r), ...[...face(r + t)].reverse()], true)} fill="var(--metal-a)" />
        <path
          d={path([...arc(r), ...[...arc(r + t)].reverse()], true)}
          fill="color-mix(in srgb, var(--bend-up) 26%, var(--panel))"
        />
        <path d={path(face(r))} fill="none" stroke="var(--ink)" strokeWidth={1.8} />
        <path d={path(face(r + t))} fill="none" stroke="var(--ink)" strokeWidth={1.8} />
      </g>
      <BreakEnd
        from={px({ x: -legs.a.drawn, y: 0 })}
        to={px({ x: -legs.a.drawn, y: -t })}
        broken={legs.a.broken}
        outward
      />
      <BreakEnd
        from={px(onLegB(r, legs.b.drawn))}
        to={px(onLegB(r + t, legs.b.drawn))}
        broken={legs.b.broken}
        outward={false}
      />
      <Tangents layout={layout} />
      <path
        d={path(face(r + k * t))}
        fill="none"
        stroke="var(--bend-up)"
        strokeWidth={2}
        strokeDasharray="10 3 2 3"
      />
      <Names layout={layout} />
      <MouldPoints layout={layout} />
    </g>
  );
}

/** From the bend's centre to where it begins and ends; the first goes on down to the strip. */
function Tangents({ layout }: { layout: StudyLayout }) {
  const { given, px, path, on, strip } = layout;
  const { t, r, angle } = given;
  const centre = px({ x: 0, y: r });
  const dashed = { stroke: "var(--quiet)", strokeDasharray: "3 3", fill: "none" };
  return (
    <g>
      <path d={path([{ x: 0, y: r }, on(r + t, 0)])} {...dashed} />
      <path d={path([{ x: 0, y: r }, on(r + t, angle)])} {...dashed} />
      <path d={`M${centre.x} ${px({ x: 0, y: -t }).y + 4}V${strip.top + strip.thick + 14}`} {...dashed} />
      <circle cx={centre.x} cy={centre.y} r={3} fill="var(--quiet)" />
      <text x={centre.x - 8} y={centre.y - 7} textAnchor="end" className="num fill-quiet text-[12px]">
        r {formatShort(r, 3)}
      </text>
    </g>
  );
}

function Names({ layout }: { layout: StudyLayout }) {
  const { given, legs, px } = layout;
  const { t } = given;
  const leg = legs.a.drawn;
  const thickness = px({ x: -leg, y: -t / 2 });
  return (
    <g>
      <FaceName at={px({ x: -leg * 0.55, y: 0 })} dy={-8} text="inside face" />
      <FaceName at={px({ x: -leg * 0.55, y: -t })} dy={17} text="outside face" />
      <text x={thickness.x - 16} y={thickness.y + 4} textAnchor="end" className="num fill-quiet text-[12px]">
        t {formatShort(t, 3)}
      </text>
    </g>
  );
}

function FaceName({ at, dy, text }: { at: Spot; dy: number; text: string }) {
  return (
    <text x={at.x} y={at.y + dy} textAnchor="middle" className="fill-quiet text-[11.5px]">
      {text}
    </text>
  );
}

/** Both mould points, and the setback to the outer one; nothing where there are none. */
function MouldPoints({ layout }: { layout: StudyLayout }) {
  const { given, follows, px, path, on, setback, scale } = layout;
  const { t, r, angle } = given;
  if (setback === undefined) return null;
  const outer = px({ x: setback, y: -t });
  const inner = follows.innerSetback ?? 0;
  const innerAt = px({ x: inner, y: 0 });
  return (
    <g>
      <path
        d={path([on(r + t, 0), { x: setback, y: -t }, on(r + t, angle)])}
        fill="none"
        stroke="var(--metal-edge)"
      />
      <circle cx={outer.x} cy={outer.y} r={4.5} fill="var(--panel)" stroke="var(--ink)" strokeWidth={1.5} />
      <text x={outer.x + 10} y={outer.y + 5} className="fill-ink text-[12.5px]">
        outer mould point
      </text>
      <Dimension
        from={px({ x: 0, y: 0 }).x}
        to={outer.x}
        y={outer.y + 26}
        text={`setback ${formatFixed(setback)}`}
      />
      {inner * scale > 12 && (
        <circle
          cx={innerAt.x}
          cy={innerAt.y}
          r={3.5}
          fill="var(--panel)"
          stroke="var(--quiet)"
          strokeWidth={1.4}
        >
          <title>inner mould point, {formatFixed(inner)} from the tangent line</title>
        </circle>
      )}
    </g>
  );
}
