/** Something in the database cannot be read: what, and what would help. It costs that row only. */
export class DamagedRow extends Error {}
