import type {
  BlankSettings,
  Comparison,
  ExportPreset,
  PartBuild,
  PartDocument,
  Units,
} from "@hillcrest/core";
import type { Place, SheetDrawn } from "./sheet-geometry.ts";

/** How dimensions are worked with where they can be: picked, and drawn to another place. */
export interface DimensionUse {
  readonly selected?: string;
  readonly onSelect: (key: string) => void;
  readonly onMove: (key: string, beside: number, mark: string) => void;
}

export interface BlankDrawingProps {
  readonly document: PartDocument;
  readonly build: PartBuild;
  readonly drawn: SheetDrawn;
  readonly settings: BlankSettings;
  readonly preset: ExportPreset;
  readonly units: Units;
  readonly zoom: number;
  readonly place: Place;
  /** The transform by which mm on the blank become pixels. */
  readonly transform: string;
  readonly dimensions?: DimensionUse;
  readonly comparison?: Comparison;
  /** Whether the metal and its openings are drawn beneath it already. */
  readonly beneath?: boolean;
}
