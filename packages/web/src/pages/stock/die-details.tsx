import {
  type Die,
  formatFixed,
  formatShort,
  LEAST_LEG_FORMULA,
  LEAST_LEG_SOURCE,
  leastLeg,
  type Material,
  naturalRadius,
  RADIUS_FORMULA,
  RADIUS_SOURCE,
} from "@hillcrest/core";
import { useItems } from "../../state/stock.ts";

/** What a die makes of each material. */
export function DieDetails({ die }: { die: Die }) {
  const materials = useItems("materials");
  const legs = [30, 60, 90, 120].map(
    (angle) => [angle, leastLeg(die, (angle * Math.PI) / 180) ?? 0] as const,
  );
  return (
    <div className="space-y-5">
      <section>
        <h3 className="font-bold">Inside radius it makes by itself</h3>
        <p className="mb-1 text-[12px] text-quiet">
          <span className="num">{RADIUS_FORMULA}</span> · {RADIUS_SOURCE}
        </p>
        <table className="text-[12.5px]">
          <tbody>
            {materials.map((m) => (
              <tr key={m.id} className="border-b border-hairline/60">
                <td className="py-0.5 pr-6">{m.name}</td>
                <td className="num text-right">{formatFixed(naturalRadius(die.v, m.radiusOverV))} mm</td>
                <td className="num pl-4 text-quiet">
                  {formatShort(m.radiusOverV)} × {formatShort(die.v)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <section>
        <h3 className="font-bold">Least leg, to the outer mould point</h3>
        <p className="mb-1 text-[12px] text-quiet">
          <span className="num">{LEAST_LEG_FORMULA}</span> · {LEAST_LEG_SOURCE}
        </p>
        <table className="text-[12.5px]">
          <tbody>
            {legs.map(([angle, leg]) => (
              <tr key={angle} className="border-b border-hairline/60">
                <td className="num py-0.5 pr-6">{angle}°</td>
                <td className="num text-right">{formatFixed(leg)} mm</td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </div>
  );
}

/** What a material's ratios mean at the usual thicknesses. */
export function MaterialDetails({ material }: { material: Material }) {
  const right = "num pl-5 text-right";
  return (
    <section>
      <h3 className="mb-1 font-bold">At usual thicknesses</h3>
      <table className="text-[12.5px]">
        <thead className="text-quiet">
          <tr className="border-b border-hairline">
            <th className="py-1 text-left font-medium">thickness</th>
            <th className={`${right} font-medium`}>least radius across</th>
            <th className={`${right} font-medium`}>along</th>
            <th className={`${right} font-medium`}>radius over V = 8t</th>
            <th className={`${right} font-medium`}>kg/m²</th>
          </tr>
        </thead>
        <tbody>
          {[0.8, 1, 1.5, 2, 3, 4].map((t) => (
            <tr key={t} className="border-b border-hairline/60">
              <td className="num py-0.5">{formatShort(t)} mm</td>
              <td className={right}>{formatFixed(t * material.leastRadiusAcross)}</td>
              <td className={right}>{formatFixed(t * material.leastRadiusAlong)}</td>
              <td className={right}>{formatFixed(naturalRadius(8 * t, material.radiusOverV))}</td>
              <td className={right}>{formatFixed((t * material.density) / 1000)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
