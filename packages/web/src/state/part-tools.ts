import { applyCommand, patchBetween, withCommand } from "@hillcrest/core";
import { bringPartTools } from "./part-slice.ts";

bringPartTools({ applyCommand, patchBetween, withCommand });
