import { type StudyGiven, toDegrees } from "@hillcrest/core";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { type PartEntry, partsApi } from "../../api/parts-api.ts";
import { Button } from "../../ui/button.tsx";
import type { Origin } from "./entered.ts";
import type { FoundBy } from "./study-methods.ts";

interface UseInPartProps {
  readonly origin?: Origin;
  readonly given: StudyGiven;
  readonly degrees: number;
  readonly method: FoundBy;
}

/** Chooses the part and bend that the study is about, and takes its values over there. */
export function UseInPart({ origin, given, degrees, method }: UseInPartProps) {
  const navigate = useNavigate();
  const [parts, setParts] = useState<readonly PartEntry[]>();
  useEffect(() => {
    partsApi
      .list(false)
      .then((all) => setParts(all.filter((p) => (p.summary?.bends ?? 0) > 0)))
      .catch(() => setParts([]));
  }, []);
  const box = "max-w-52 rounded border border-hairline bg-raised px-1.5 py-1";
  const use = () => {
    if (!origin) return;
    const { row, document } = origin;
    const change: Record<string, unknown> = {};
    if (given.r !== row.radius) change.radius = String(given.r);
    if (Math.abs(degrees - toDegrees(row.angle)) > 1e-9) change.angle = String(degrees);
    if (given.k !== row.k) change.k = String(given.k);
    if (Object.keys(change).length > 0)
      change.reason = method.method === "own" ? "from the bend study" : `by ${method.name}`;
    navigate(`/parts/${origin.id}`, { state: { bendChange: { bend: row.id, change }, name: document.name } });
  };
  const other = origin && Math.abs(given.t - (origin.build.stock?.thickness ?? 0)) > 1e-9;
  return (
    <div className="flex items-center gap-2">
      <select
        aria-label="Part"
        className={box}
        value={origin?.id ?? ""}
        onChange={(e) => navigate(e.currentTarget.value ? `/study?part=${e.currentTarget.value}` : "/study")}
      >
        <option value="">no part</option>
        {parts?.map((p) => (
          <option key={p.id} value={p.id}>
            {p.name}
          </option>
        ))}
      </select>
      {origin && (
        <select
          aria-label="Bend"
          className={box}
          value={origin.row.id}
          onChange={(e) => navigate(`/study?part=${origin.id}&bend=${e.currentTarget.value}`)}
        >
          {origin.build.bends.map((b) => (
            <option key={b.id} value={b.id}>
              bend {b.number}, {b.between.join(" / ")}
            </option>
          ))}
        </select>
      )}
      <Button
        kind="primary"
        data-use
        disabled={!origin || other}
        title={
          !origin
            ? "Choose a part first"
            : other
              ? "The part has another thickness: change its stock there"
              : "Give this bend these values, as a step of the part"
        }
        onClick={use}
      >
        Use in this part
      </Button>
    </div>
  );
}
