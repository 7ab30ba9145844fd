/** Something that only the finished outline shows, at the step whose doing it is. */
export interface SheetRemark {
  readonly step: string;
  readonly message: string;
  readonly plate?: string;
}

/** A plate's letter and a bend's number, by which people call them. */
export interface Labels {
  letterOf(plate: string): string;
  numberOf(bend: string): number;
}
