import { type ExportPreset, patternProblem, presetProblems } from "@hillcrest/core";
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  Matches,
  Max,
  MaxLength,
  Min,
  type ValidationArguments,
} from "class-validator";
import { HoldsTo } from "../check-body.ts";
import type { BodyProblem } from "../problem.ts";

const isPlain = (v: unknown): v is Record<string, unknown> =>
  typeof v === "object" && v !== null && !Array.isArray(v);

function proofProblems({ value }: ValidationArguments): BodyProblem[] {
  const fits =
    Array.isArray(value) &&
    value.length <= 60 &&
    value.every(
      (l) => isPlain(l) && typeof l.holds === "boolean" && typeof l.text === "string" && l.text.length <= 400,
    );
  return fits
    ? []
    : [
        {
          path: "",
          message: "A proof is a list of at most 60 lines, each with a text and whether it holds.",
        },
      ];
}

const FACTS = ["width", "height", "area", "cutting", "openings", "thickness"];

function factProblems({ value }: ValidationArguments): BodyProblem[] {
  const finite = (v: unknown) => typeof v === "number" && Number.isFinite(v);
  const fits =
    isPlain(value) &&
    FACTS.every((key) => finite(value[key])) &&
    Array.isArray(value.bends) &&
    value.bends.length <= 5000 &&
    value.bends.every(
      (b) =>
        isPlain(b) &&
        typeof b.up === "boolean" &&
        ["number", "angle", "radius", "length"].every((k) => finite(b[k])),
    );
  return fits
    ? []
    : [{ path: "", message: `Facts of a blank are the numbers ${FACTS.join(", ")} and a list of bends.` }];
}

/** `POST /api/parts/:id/exports`: a file that was saved from the page. */
export class RecordExportBody {
  @IsInt({ message: "The revision that the file is of must be a whole number." })
  @Min(1, { message: "The revision that the file is of must be at least 1." })
  revision: number;

  @IsString({ message: "The format must be a text." })
  @MaxLength(20, { message: "The format can have at most 20 characters." })
  format: string;

  @IsString({ message: "The file's name must be a text." })
  @MaxLength(260, { message: "The file's name can have at most 260 characters." })
  file: string;

  @Matches(/^[0-9a-f]{64}$/, { message: "The SHA-256 must be 64 hexadecimal digits." })
  sha256: string;

  @IsString({ message: "The preset's name must be a text." })
  @MaxLength(100, { message: "The preset's name can have at most 100 characters." })
  preset: string;

  @IsOptional()
  @IsString({ message: "The name of who saved it must be a text." })
  @MaxLength(100, { message: "The name of who saved it can have at most 100 characters." })
  by?: string;

  @HoldsTo(proofProblems)
  proof: unknown;

  @HoldsTo(factProblems)
  facts: unknown;
}

const MOST_PARTS = 2000;
const MOST_OF_ONE = 9999;

function wantedProblems({ value }: ValidationArguments): BodyProblem[] {
  if (!Array.isArray(value)) return [];
  return value.flatMap((w: unknown, i): BodyProblem[] => {
    if (!isPlain(w) || typeof w.id !== "string")
      return [{ path: `/${i}/id`, message: "Each part is named by its id." }];
    const whole =
      Number.isInteger(w.quantity) && (w.quantity as number) >= 1 && (w.quantity as number) <= MOST_OF_ONE;
    return whole
      ? []
      : [{ path: `/${i}/quantity`, message: `A quantity is a whole number from 1 to ${MOST_OF_ONE}.` }];
  });
}

function presetIn({ value }: ValidationArguments): BodyProblem[] {
  if (value === undefined || typeof value === "string") return [];
  return presetProblems(value, "");
}

const wrongPattern = ({ value }: ValidationArguments): BodyProblem[] => {
  const wrong = typeof value === "string" ? patternProblem(value) : undefined;
  return wrong ? [{ path: "", message: wrong }] : [];
};

/** `POST /api/exports`: many parts at once. */
export class ExportManyBody {
  @IsArray({ message: "The parts must be a list." })
  @ArrayMinSize(1, { message: "Choose at least one part." })
  @ArrayMaxSize(MOST_PARTS, { message: `At most ${MOST_PARTS} parts can leave at once.` })
  @HoldsTo(wantedProblems)
  parts: { id: string; quantity: number }[];

  @IsIn(["zip", "together"], { message: `"as" must be "zip" or "together".` })
  as: "zip" | "together";

  @IsOptional()
  @IsString({ message: "The format must be a text." })
  format?: string;

  /** A preset, or the id of one. */
  @HoldsTo(presetIn)
  preset?: string | ExportPreset;

  @IsOptional()
  @IsString({ message: "The pattern must be a text." })
  @MaxLength(200, { message: "The pattern can have at most 200 characters." })
  @HoldsTo(wrongPattern)
  pattern?: string;

  @IsOptional()
  @IsNumber({ allowInfinity: false, allowNaN: false }, { message: "The spacing must be a number of mm." })
  @Min(0, { message: "The spacing must be at least 0 mm." })
  @Max(10_000, { message: "The spacing can be at most 10000 mm." })
  spacing?: number;

  @IsOptional()
  @IsIn(["files", "groups"], { message: `"stocks" must be "files" or "groups".` })
  stocks?: "files" | "groups";

  @IsOptional()
  @IsBoolean({ message: `"apart" must be true or false.` })
  apart?: boolean;

  @IsOptional()
  @IsBoolean({ message: `"anyway" must be true or false.` })
  anyway?: boolean;

  @IsOptional()
  @IsString({ message: "The name of who saves it must be a text." })
  @MaxLength(100, { message: "The name of who saves it can have at most 100 characters." })
  by?: string;
}
