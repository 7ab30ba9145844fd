import type { BlankToDraw } from "./drawing/draw-blank.ts";
import type { Proof } from "./dxf/prove-dxf.ts";
import type { FoldedView } from "./svg/svg.ts";

/** What a file is made from. */
export interface FileJob extends BlankToDraw {
  /** How far the part is folded, 0 to 1, where it is shown folded. */
  readonly fold?: number;
  readonly view?: FoldedView;
  /** Why the part cannot be made as it stands: every file says so. */
  readonly stops: readonly string[];
}

/** A file as it was made, with its proof: what reading it back has shown, and why the part cannot be made where it cannot. */
export interface MadeFile {
  readonly content: string | Uint8Array;
  readonly proof?: Proof;
}

/** A kind of file that a part can leave as. */
export interface FileFormat {
  readonly key: string;
  readonly label: string;
  /** What of the part it shows. */
  readonly of: "blank" | "folded";
  readonly ending: string;
  readonly type: string;
  /** What is made is an SVG that whoever asks for it turns into dots. */
  readonly asDots?: boolean;
  /** Whether a part can be made from it. Such a file is refused for a stopped part, unless it is wanted anyway. */
  readonly forMaking: boolean;
}

/** A kind of file with what makes it. Only `makeFile` of the batch room calls it, which knows whether a part may leave. */
export interface Maker extends FileFormat {
  readonly make: (job: FileJob) => MadeFile;
}
