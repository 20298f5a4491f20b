/** A share drawn from the beta law: what may be behind so many of one kind and so many of the other. Two gammas, a / (a + b). */
export function drawBeta(a: number, b: number, random: () => number): number {
  const x = drawGamma(a, random);
  const y = drawGamma(b, random);
  return x + y > 0 ? x / (x + y) : a / (a + b);
}

/** G. Marsaglia and W. W. Tsang 2000, “A simple method for generating gamma variables”; shapes below 1 by their note at the end. From memory. */
function drawGamma(shape: number, random: () => number): number {
  if (shape < 1) return drawGamma(shape + 1, random) * (1 - random()) ** (1 / shape);
  const d = shape - 1 / 3;
  const c = 1 / Math.sqrt(9 * d);
  for (;;) {
    const x = drawNormal(random);
    const v = (1 + c * x) ** 3;
    if (v > 0 && Math.log(1 - random()) < 0.5 * x * x + d - d * v + d * Math.log(v)) return d * v;
  }
}

/** G. E. P. Box and M. E. Muller 1958. */
const drawNormal = (random: () => number) => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
