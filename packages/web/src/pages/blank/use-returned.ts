import { useCallback, useEffect, useState } from "react";
import { partPreset } from "../../state/exporting.ts";
import { openPart } from "../../state/part-slice.ts";
import { useApp } from "../../state/store.ts";
import { requestComparison } from "../../worker/build-client.ts";
import type { Compared } from "./blank-drawer.tsx";

const LARGEST_FILE = 40_000_000;

/** A file that came back, held against the blank; anew whenever the part or the tolerance changes. */
export function useReturned(onDropped: () => void) {
  const part = useApp((s) => openPart(s).id);
  const document = useApp((s) => openPart(s).document);
  const { preset } = useApp(partPreset);
  const [file, setFile] = useState<{ readonly name: string; readonly text: string }>();
  const [within, setWithin] = useState(0.01);
  const [answer, setAnswer] = useState<Pick<Compared, "found" | "problem">>({});
  useEffect(() => {
    if (!file || !document || part === undefined) return;
    let left = false;
    void requestComparison(part, { document, preset, text: file.text, within }).then((outcome) => {
      if (left || outcome.kind === "cancelled") return;
      if (outcome.kind !== "result") setAnswer({ problem: outcome.message });
      else if ("refused" in outcome.value) setAnswer({ problem: outcome.value.refused });
      else setAnswer({ found: outcome.value });
    });
    return () => {
      left = true;
    };
  }, [file, document, preset, within, part]);
  const compare = useCallback(
    (chosen: File) => {
      setAnswer({});
      if (chosen.size > LARGEST_FILE)
        return void setAnswer({ problem: `${chosen.name} is larger than ${LARGEST_FILE / 1e6} MB.` });
      void chosen.text().then((text) => setFile({ name: chosen.name, text }));
      onDropped();
    },
    [onDropped],
  );
  return {
    compared: file && { file: file.name, within, ...answer },
    compare,
    within: setWithin,
    forget: () => setFile(undefined),
  };
}
