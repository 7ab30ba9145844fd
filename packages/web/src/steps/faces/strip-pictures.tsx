import type { OptionPictures } from "../../fields/field-look.ts";
import { SheetSection } from "../pictures/sheet-section.tsx";
import type { FieldContext } from "./step-face.ts";

/** A choice made on strips of sheet, each as it would come out with the step's own numbers. */
export const stripPictures =
  (field: string) =>
  ({ outlooks }: FieldContext): OptionPictures | undefined =>
    outlooks && {
      picture: (option) => {
        const outlook = outlooks[field]?.[option];
        return outlook && "pieces" in outlook ? (
          <SheetSection t={outlook.t} pieces={outlook.pieces} />
        ) : (
          <span className="h-[54px]" />
        );
      },
    };
