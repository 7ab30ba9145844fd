import {
  type Die,
  FORCE_FORMULA,
  FORCE_SOURCE,
  forcePerMetre,
  formatFixed,
  formatShort,
  LEAST_LEG_FORMULA,
  LEAST_LEG_SOURCE,
  leastLeg,
  type Material,
  naturalRadius,
  RADIUS_FORMULA,
  RADIUS_SOURCE,
  type StockCard,
  type StockItem,
  type Why,
} from "@hillcrest/core";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { once } from "../../state/once.ts";
import { useItems } from "../../state/stock.ts";
import { useApp, useSend } from "../../state/store.ts";
import { beginTakeOver } from "../../state/taking-over.ts";
import { Button } from "../../ui/button.tsx";
import { Popover } from "../../ui/popover.tsx";
import { WhyNumber } from "../../ui/why-card.tsx";
import { counted, ImpactTable } from "./impact-dialog.tsx";
import { NumberHeads } from "./number-heads.tsx";
import { useImpact } from "./use-impact.ts";

const n = (v: number) => formatShort(v, 3);

interface CardDetailsProps {
  readonly card: StockCard;
  readonly onChange: (item: StockItem) => void;
}

/** What follows from a card: its thickness by name, what its dies make of it, and the parts that use it. */
export function CardDetails({ card, onChange }: CardDetailsProps) {
  const material = useItems("materials").find((m) => m.id === card.material);
  const dies = useItems("dies").filter((d) => card.dies.includes(d.id));
  return (
    <div className="min-w-0 max-w-[560px] grow space-y-6">
      <GaugePick card={card} onChange={onChange} />
      <section>
        <h3 className="mb-1 font-bold">Air bending with its dies</h3>
        {material && dies.length > 0 ? (
          <DieTable dies={dies} material={material} thickness={card.thickness} />
        ) : (
          <p className="text-quiet">
            Choose dies at the left to see the radius, least leg and force of each.
          </p>
        )}
      </section>
      <BehindParts card={card.id} />
    </div>
  );
}

/** Takes a thickness from a list by the name it is sold under. */
function GaugePick({ card, onChange }: CardDetailsProps) {
  const lists = useItems("gauges");
  const named = lists.flatMap((l) =>
    l.rows.filter((r) => Math.abs(r.thickness - card.thickness) < 5e-4).map((r) => `${r.name} (${l.name})`),
  );
  return (
    <section>
      <h3 className="mb-1 font-bold">Thickness by name</h3>
      <p>
        {named.length > 0 ? (
          named.join(", ")
        ) : (
          <span className="text-quiet">{n(card.thickness)} mm stands in no list</span>
        )}
        <Popover
          label="Thicknesses by name"
          trigger={
            <button type="button" className="ml-3 font-semibold text-moss hover:underline">
              choose…
            </button>
          }
        >
          <div className="flex gap-5">
            {lists.map((l) => (
              <div key={l.id}>
                <p className="mb-1 max-w-32 text-[12px] leading-tight font-semibold text-quiet">{l.name}</p>
                {l.rows.map((r) => (
                  <button
                    key={r.name}
                    type="button"
                    className="flex w-full justify-between gap-3 rounded px-1 text-left hover:bg-moss-soft"
                    onClick={() => onChange({ ...card, thickness: r.thickness })}
                  >
                    <span>{r.name}</span>
                    <span className="num text-quiet">{formatShort(r.thickness, 4)}</span>
                  </button>
                ))}
              </div>
            ))}
          </div>
        </Popover>
      </p>
    </section>
  );
}

interface DieTableProps {
  readonly dies: readonly Die[];
  readonly material: Material;
  readonly thickness: number;
}

function DieTable({ dies, material, thickness }: DieTableProps) {
  const heads = ["makes radius", "least leg at 90°", "force", "bears"];
  return (
    <table className="text-[12.5px]">
      <thead className="text-quiet">
        <tr className="border-b border-hairline">
          <th className="py-1 text-left font-medium">die</th>
          <NumberHeads heads={heads} />
        </tr>
      </thead>
      <tbody className="num">
        {dies.map((die) => (
          <DieRow key={die.id} die={die} material={material} thickness={thickness} />
        ))}
      </tbody>
    </table>
  );
}

const RIGHT = "py-0.5 pl-4 text-right";

function DieRow(props: DieProps) {
  const { die, material, thickness } = props;
  const force = forcePerMetre(thickness, die.v, material.tensile);
  const ask = whysOfDie(props);
  return (
    <tr className="h-[26px] border-b border-hairline/60">
      <td className="py-0.5 font-sans">{die.name}</td>
      <td className={RIGHT}>
        <WhyNumber
          text={`${formatFixed(naturalRadius(die.v, material.radiusOverV))} mm`}
          label={`radius of ${die.name}`}
          why={ask.radius}
        />
      </td>
      <td className={RIGHT}>
        <WhyNumber
          text={`${formatFixed(leastLeg(die, SQUARE) ?? 0)} mm`}
          label={`least leg of ${die.name}`}
          why={ask.leg}
        />
      </td>
      <td className={`${RIGHT} ${force > die.mostForce ? "text-stop" : ""}`}>
        <WhyNumber text={`${formatFixed(force, 0)} kN/m`} label={`force of ${die.name}`} why={ask.force} />
      </td>
      <td className={RIGHT}>{formatFixed(die.mostForce, 0)} kN/m</td>
    </tr>
  );
}

const SQUARE = Math.PI / 2;

type DieProps = Omit<DieTableProps, "dies"> & { readonly die: Die };

/** Why a die makes the radius, the leg and the force that it does. */
function whysOfDie({ die, material, thickness }: DieProps): Record<"radius" | "leg" | "force", () => Why> {
  const materialLine = {
    source: `material ${material.name}`,
    link: { to: "material", id: material.id } as const,
  };
  const v = {
    text: `V = ${n(die.v)} mm`,
    source: `die ${die.name}`,
    link: { to: "die", id: die.id } as const,
  };
  const radius = naturalRadius(die.v, material.radiusOverV);
  const leg = leastLeg(die, SQUARE) ?? 0;
  const force = forcePerMetre(thickness, die.v, material.tensile);
  return {
    radius: () => ({
      title: `inside radius that ${die.name} makes by itself`,
      result: `${n(radius)} mm`,
      lines: [
        { text: RADIUS_FORMULA, source: RADIUS_SOURCE },
        { text: `share = ${n(material.radiusOverV)}`, ...materialLine },
        v,
        { text: `r = ${n(material.radiusOverV)} × ${n(die.v)} = ${n(radius)}` },
      ],
    }),
    leg: () => ({
      title: "least leg of a square bend, to the outer mould point",
      result: `${n(leg)} mm`,
      lines: [
        { text: LEAST_LEG_FORMULA, source: LEAST_LEG_SOURCE },
        v,
        { text: `R = ${n(die.radius)} mm`, source: `die ${die.name}`, link: { to: "die", id: die.id } },
        { text: `${n(die.v)} / (2·cos 45°) + ${n(die.radius)} = ${n(leg)}` },
      ],
    }),
    force: () => ({
      title: "bending force for each metre of bend",
      result: `${formatFixed(force, 0)} kN/m`,
      lines: [
        { text: FORCE_FORMULA, source: FORCE_SOURCE },
        { text: `Rm = ${n(material.tensile)} MPa`, ...materialLine },
        { text: `t = ${n(thickness)} mm`, source: "this card" },
        v,
        { text: `1.33 × ${n(material.tensile)} × ${n(thickness)}² / ${n(die.v)} = ${n(force)} kN/m` },
      ],
    }),
  };
}

/** Parts that still stand on an earlier state of the card, and the button that brings them along. */
function BehindParts({ card }: { card: string }) {
  const entries = useApp((s) => s.stock.entries);
  const send = useSend();
  const { impact, look } = useImpact();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [told, setTold] = useState<string>();
  useEffect(() => {
    if (!entries) return;
    let left = false;
    look({ card }).catch((error: Error) => !left && setTold(error.message));
    return () => {
      left = true;
    };
  }, [entries, card, look]);
  const take = async () => {
    try {
      await send(beginTakeOver([...chosen]));
      setTold(undefined);
      setChosen(new Set());
    } catch (error) {
      setTold((error as Error).message);
    }
  };
  return (
    <section data-behind>
      <h3 className="mb-1 font-bold">Parts on an earlier state of this card</h3>
      {told && <p role="status">{told}</p>}
      {!impact && !told && <p className="text-quiet">Looking at the parts…</p>}
      {impact?.parts.length === 0 && (
        <p className="text-quiet">None: every part that uses it stands on its present state.</p>
      )}
      {impact && impact.parts.length > 0 && (
        <>
          <ImpactTable impact={impact} chosen={chosen} onChosen={setChosen} />
          <Button
            kind="primary"
            className="mt-2"
            disabled={chosen.size === 0}
            onClick={() => void once(`take over ${card}`, take)}
          >
            Take over in {counted(chosen.size)}
          </Button>
        </>
      )}
      <p className="mt-2 text-quiet">
        See one bend of it in the{" "}
        <Link
          className="text-moss underline decoration-moss/50 underline-offset-2 hover:decoration-moss"
          to={`/study?card=${card}`}
        >
          Bend study
        </Link>
        .
      </p>
    </section>
  );
}
