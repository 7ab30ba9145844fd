/** Parts that are chosen to leave together, with how many are wanted of each. */
export type Chosen = ReadonlyMap<string, number>;
