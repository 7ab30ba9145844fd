export * from "./units/expression.ts";
