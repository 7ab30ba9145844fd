/**
 * The name of an edge on its plate as a person reads it: names that are used within a part never show. What a step has put
 * before it is left out, and pieces of an edge that was cut in two are told apart.
 */
export const roleTitle = (role: string): string =>
  role
    .replace(/^bend-/, "bend ")
    .replace(/@.*$/, " beyond the cut")
    .replace(/(^|\+)s\d+[a-z]?\d*-/g, "$1")
    .replace(/-s\d+[a-z]?(-\d+)?/g, " copy")
    .replace(/(^|\+)(cut|hole|slot|o|m)\d[\w-]*/g, "$1of an opening")
    .replace(/(left|right)(step|top)/g, "$1 $2")
    .replace(/\+/g, " and ");
