import { cardOf, lengthText, roundInches, type Units } from "@hillcrest/core";
import { setPartValues, setStockValues } from "./edits.ts";
import { openPart } from "./part-slice.ts";
import { store, type Thunk, useApp } from "./store.ts";

/** In what the open part shows its lengths. */
export const useUnits = (): Units => useApp((s) => openPart(s).document?.units ?? "mm");

/** A length as the open part shows its lengths. */
export const inPart = (mm: number): string =>
  lengthText(mm, openPart(store.getState()).document?.units ?? "mm");

/** Shows the part in other units. One that is nothing yet, and of no card, begins with a thickness that is round in them. */
export const chooseUnits =
  (units: Units): Thunk =>
  (_send, getState) => {
    setPartValues({ units: units === "mm" ? undefined : units });
    const { document } = openPart(getState());
    if (!document || document.steps.length > 0 || cardOf(document.stock) || units === "mm") return;
    const own = ["thickness", "radius"].filter((key) =>
      [undefined, "1.5"].includes(document.stock[key] as string),
    );
    if (own.length === 2)
      setStockValues(Object.fromEntries(own.map((key) => [key, roundInches(1.5, units)])));
  };
