import type { FindingLevel, FindingPiece, PickOf } from "@hillcrest/core";
import { createSlice, type PayloadAction } from "@reduxjs/toolkit";

export type Theme = "day" | "night" | "system";
export type Views = "folded" | "both" | "blank";
export type Facing = "front" | "top" | "right" | "oblique" | "fit";

/** Something that can be picked, by its stable name. */
export type Pick =
  | { readonly kind: "edge"; readonly name: string }
  | { readonly kind: "plate"; readonly id: string; readonly x: number; readonly y: number }
  | { readonly kind: "bend"; readonly id: string }
  | { readonly kind: "corner"; readonly name: string }
  | { readonly kind: "hole"; readonly plate: string; readonly key: string };

/** A step's field for which things are being picked. */
export interface Picking {
  readonly step: string;
  readonly field: string;
  readonly of: PickOf;
  /** Whether one thing is all it takes. */
  readonly single?: boolean;
}

/** How the places of cuts are said; a new one is said like the last. */
export type Placed = "xy" | "middle" | "all" | "edge" | "edges" | "point";

/** By what the findings are put together. */
export type Grouping = "none" | "rule" | "piece";

export type DrawerTab = "bends" | "findings" | "measure" | "outlines" | "values";

export interface ViewState {
  readonly theme: Theme;
  readonly views: Views;
  /** Share of the width that the folded view takes when both are shown. */
  readonly split: number;
  readonly fold: number;
  readonly letters: boolean;
  readonly drawer: "closed" | DrawerTab;
  readonly picks: readonly Pick[];
  /** Where the pick card stands, in pixels of the views' area. */
  readonly card?: { readonly x: number; readonly y: number };
  /** What the pointer is over, here or in a list that names it. */
  readonly hovered: readonly Pick[];
  /** Two pieces of which the view shows what they share. */
  readonly clash?: readonly [FindingPiece, FindingPiece];
  readonly grouping: Grouping;
  /** Levels of findings that are left out of the list. */
  readonly hiddenLevels: readonly FindingLevel[];
  readonly openStep?: string;
  /** Whether the part's stock stands open. */
  readonly stockOpen: boolean;
  readonly pickingFor?: Picking;
  /** The one or two things that are being measured, while the drawer shows it. */
  readonly measured: readonly Pick[];
  readonly placed: Placed;
  readonly facing: { readonly to: Facing; readonly count: number };
}

const remembered = (): Partial<ViewState> => {
  try {
    return JSON.parse(localStorage.getItem("hillcrest:view") ?? "{}");
  } catch {
    return {};
  }
};

const initialState: ViewState = {
  theme: "system",
  views: "both",
  split: 0.5,
  fold: 1,
  letters: true,
  drawer: "closed",
  stockOpen: false,
  picks: [],
  hovered: [],
  grouping: "none",
  hiddenLevels: [],
  measured: [],
  placed: "xy",
  facing: { to: "oblique", count: 0 },
};

/** A text by which two picks of the same thing are equal. */
export function pickKey(p: Pick): string {
  if (p.kind === "edge" || p.kind === "corner") return `${p.kind}:${p.name}`;
  if (p.kind === "hole") return `hole:${p.plate}:${p.key}`;
  return `${p.kind}:${p.id}`;
}

const slice = createSlice({
  name: "view",
  initialState: (): ViewState => ({ ...initialState, ...remembered() }),
  reducers: {
    themeChosen: (s, { payload }: PayloadAction<Theme>) => {
      s.theme = payload;
    },
    viewsChosen: (s, { payload }: PayloadAction<Views>) => {
      s.views = payload;
      s.card = undefined;
    },
    splitMoved: (s, { payload }: PayloadAction<number>) => {
      s.split = Math.max(0.2, Math.min(0.8, payload));
    },
    folded: (s, { payload }: PayloadAction<number>) => {
      s.fold = Math.max(0, Math.min(1, payload));
    },
    lettersToggled: (s) => {
      s.letters = !s.letters;
    },
    drawerChosen: (s, { payload }: PayloadAction<ViewState["drawer"]>) => {
      s.drawer = s.drawer === payload ? "closed" : payload;
      if (s.drawer !== "findings") s.clash = undefined;
    },
    findingsShown: (s) => {
      s.drawer = "findings";
    },
    clashShown: (s, { payload }: PayloadAction<ViewState["clash"]>) => {
      s.clash = payload && [...payload];
    },
    groupingChosen: (s, { payload }: PayloadAction<Grouping>) => {
      s.grouping = payload;
    },
    levelToggled: (s, { payload }: PayloadAction<FindingLevel>) => {
      const others = s.hiddenLevels.filter((l) => l !== payload);
      s.hiddenLevels = others.length < s.hiddenLevels.length ? others : [...others, payload];
    },
    stockShown: (s, { payload }: PayloadAction<boolean>) => {
      s.stockOpen = payload;
    },
    hovered: (s, { payload }: PayloadAction<readonly Pick[]>) => {
      const keys = (list: readonly Pick[]) => list.map(pickKey).join();
      if (keys(s.hovered as Pick[]) !== keys(payload)) s.hovered = [...payload];
    },
    picked: (
      s,
      { payload }: PayloadAction<{ pick: Pick; add: boolean; card?: { x: number; y: number } }>,
    ) => {
      const key = pickKey(payload.pick);
      const others = s.picks.filter((p) => pickKey(p as Pick) !== key);
      const wasThere = others.length !== s.picks.length;
      if (payload.add && s.picks.every((p) => p.kind === payload.pick.kind)) {
        s.picks = wasThere ? others : [...others, payload.pick];
      } else s.picks = [payload.pick];
      s.card = s.picks.length > 0 ? payload.card : undefined;
    },
    /** Several things of one sort at once; the card stays where it is. */
    pickedAll: (s, { payload }: PayloadAction<readonly Pick[]>) => {
      s.picks = [...payload];
    },
    measured: (s, { payload }: PayloadAction<Pick>) => {
      s.measured = s.measured.length === 1 ? [s.measured[0], payload] : [payload];
      s.picks = s.measured;
    },
    /** Two things at once, whatever was being measured. */
    bothMeasured: (s, { payload }: PayloadAction<readonly [Pick, Pick]>) => {
      s.measured = [...payload];
      s.picks = s.measured;
      s.card = undefined;
    },
    measuringDropped: (s) => {
      s.measured = [];
      s.picks = [];
    },
    placedChosen: (s, { payload }: PayloadAction<Placed>) => {
      s.placed = payload;
    },
    pickCleared: (s) => {
      s.picks = [];
      s.card = undefined;
    },
    stepOpened: (s, { payload }: PayloadAction<string | undefined>) => {
      s.openStep = payload;
      if (s.pickingFor?.step !== payload) s.pickingFor = undefined;
    },
    pickingStarted: (s, { payload }: PayloadAction<Picking | undefined>) => {
      s.pickingFor = payload;
      s.picks = [];
      s.card = undefined;
    },
    facingChosen: (s, { payload }: PayloadAction<Facing>) => {
      s.facing = { to: payload, count: s.facing.count + 1 };
    },
    benchEntered: (s) => ({
      ...s,
      fold: 1,
      picks: [],
      measured: [],
      card: undefined,
      hovered: [],
      clash: undefined,
      hiddenLevels: [],
      openStep: undefined,
      stockOpen: false,
      pickingFor: undefined,
      facing: { to: "oblique" as const, count: s.facing.count + 1 },
    }),
  },
});

/** What is kept of the view between visits, as text: what the pointer is over is not. */
export const viewToKeep = ({ theme, views, split, letters }: ViewState): string =>
  JSON.stringify({ theme, views, split, letters });

export function rememberView(kept: string): void {
  try {
    localStorage.setItem("hillcrest:view", kept);
  } catch {
    // Private windows may refuse storage; the view then starts afresh.
  }
}

export const viewActions = slice.actions;
export const viewReducer = slice.reducer;
