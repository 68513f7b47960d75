/** Distribution function of the standard normal, by the error function of Abramowitz and Stegun 7.1.26: absolute error under 1.5e-7. */
export function normalBelow(x: number): number {
  const z = Math.abs(x) / Math.SQRT2;
  const t = 1 / (1 + 0.3275911 * z);
  const tail =
    t *
    (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429)))) *
    Math.exp(-z * z);
  return x < 0 ? tail / 2 : 1 - tail / 2;
}

/** Where the standard normal has 80% below: the upper end of a range that holds six times in ten. */
export const NORMAL_80 = 0.8416212335729143;

/** Mean of a standard normal of which only is known that it lies below `x`: minus the inverse Mills ratio. */
export function normalMeanBelow(x: number): number {
  const share = normalBelow(x);
  // far below, the mean lies close under the end
  return share < 1e-6 ? x - 0.3 : -Math.exp((-x * x) / 2) / Math.sqrt(2 * Math.PI) / share;
}
