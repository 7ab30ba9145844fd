/** log Γ(x) for x > 0 by Lanczos's approximation (g = 7, nine terms), good to 1e-14. */
function logGamma(x: number): number {
  const terms = [
    676.5203681218851, -1259.1392167224028, 771.3234287776531, -176.6150291621406, 12.507343278686905,
    -0.13857109526572012, 9.984369578019572e-6, 1.5056327351493116e-7,
  ];
  let sum = 0.9999999999998099;
  terms.forEach((c, i) => {
    sum += c / (x + i);
  });
  const t = x + 6.5;
  return Math.log(Math.sqrt(2 * Math.PI) * sum) + (x - 0.5) * Math.log(t) - t;
}

/** The regularised incomplete beta function I_x(a, b), by its continued fraction (Lentz's method). */
function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  if (x > (a + 1) / (a + b + 2)) return 1 - incompleteBeta(1 - x, b, a);
  const front = Math.exp(logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log(1 - x));
  let c = 1;
  let d = 1 / (1 - ((a + b) * x) / (a + 1));
  let fraction = d;
  for (let m = 1; m < 400; m++) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / (1 + even * d);
    c = 1 + even / c;
    fraction *= d * c;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / (1 + odd * d);
    c = 1 + odd / c;
    fraction *= d * c;
    if (Math.abs(d * c - 1) < 1e-15) break;
  }
  return (front * fraction) / a;
}

/** Share of Student's t distribution with `dof` degrees of freedom that lies below `t`. */
export function studentShare(t: number, dof: number): number {
  const tail = incompleteBeta(dof / (dof + t * t), dof / 2, 0.5) / 2;
  return t > 0 ? 1 - tail : tail;
}

/** The t below which `share` (0.5 to 1) of Student's distribution lies, by bisection; good to 1e-10. */
export function studentQuantile(share: number, dof: number): number {
  let low = 0;
  let high = 1;
  while (studentShare(high, dof) < share && high < 1e12) high *= 2;
  for (let i = 0; i < 200 && high - low > 1e-12 * high; i++) {
    const middle = (low + high) / 2;
    if (studentShare(middle, dof) < share) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
