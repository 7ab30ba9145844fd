/** How many letters must be put in, taken out or changed to make one name of another (Levenshtein's distance). */
function lettersApart(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++)
      next.push(Math.min(next[j - 1] + 1, row[j] + 1, row[j - 1] + (a[i - 1] === b[j - 1] ? 0 : 1)));
    row = next;
  }
  return row[b.length];
}

/** Names are compared by so many letters: longer ones are no slip of a finger. */
const LONGEST = 60;

/** Of many names those that one is most likely meant to be, the likeliest first; all of few in their order. */
export function nearestNames(name: string, known: readonly string[], most: number): readonly string[] {
  if (known.length <= most) return known;
  const meant = name.slice(0, LONGEST).toLowerCase();
  return known
    .map((other) => ({ other, apart: lettersApart(meant, other.slice(0, LONGEST).toLowerCase()) }))
    .sort((p, q) => p.apart - q.apart)
    .slice(0, most)
    .map(({ other }) => other);
}
