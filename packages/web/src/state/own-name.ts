const NAME = "hillcrest:accepts-as";

/** Who worked in this browser last, as they called themselves. */
export function lastName(): string {
  try {
    return localStorage.getItem(NAME) ?? "";
  } catch {
    return "";
  }
}

export function rememberName(by: string): void {
  try {
    localStorage.setItem(NAME, by);
  } catch {
    // A browser that keeps nothing asks for the name again.
  }
}
