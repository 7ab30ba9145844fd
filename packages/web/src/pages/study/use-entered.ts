import { type CardSnapshot, cardOf } from "@hillcrest/core";
import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import { partsApi } from "../../api/parts-api.ts";
import { stockApi } from "../../api/stock-api.ts";
import { requestBuild } from "../../worker/build-client.ts";
import { type Entered, fromAddress, type Origin, ofBend } from "./entered.ts";

/** What is studied: numbers from the address, a bend of a part, or a card of the stock; and where they came from. */
export function useEntered() {
  const [params] = useSearchParams();
  const [entered, setEntered] = useState<Entered>(() => fromAddress(params));
  const [origin, setOrigin] = useState<Origin>();
  const [problem, setProblem] = useState<string>();
  const [own, setOwn] = useState<CardSnapshot>();
  const part = params.get("part");
  const bend = params.get("bend");
  const card = params.get("card");
  useEffect(() => {
    setProblem(undefined);
    if (!part) return setOrigin(undefined);
    let left = false;
    partsApi
      .read(part)
      .then(async ({ id, document }) => {
        const outcome = await requestBuild(id, document);
        if (left || outcome.kind === "cancelled") return;
        if (outcome.kind !== "result") return setProblem(outcome.message);
        const { build } = outcome.value;
        const row = build.bends.find((b) => b.id === bend) ?? build.bends[0];
        if (!row) return setProblem(`“${document.name}” has no bend to study yet.`);
        setOrigin({ id, document, build, row });
        setOwn(cardOf(document.stock));
        setEntered((old) => ({ ...old, ...ofBend(document, build, row) }));
      })
      .catch((error) => !left && setProblem((error as Error).message));
    return () => {
      left = true;
    };
  }, [part, bend]);
  useEffect(() => {
    if (!card) return;
    let left = false;
    stockApi
      .snapshot(card)
      .then((snapshot) => {
        if (left) return;
        setOwn(snapshot);
        const method = `chart:${snapshot.chart.id}` as const;
        setEntered((old) => ({ ...old, t: snapshot.thickness, r: snapshot.radii[0], method }));
      })
      .catch((error) => !left && setProblem((error as Error).message));
    return () => {
      left = true;
    };
  }, [card]);
  const set = (more: Partial<Entered>) => setEntered({ ...entered, ...more });
  return { entered, set, origin, problem, own };
}
