/** Value of a smooth function at z; its gradient there is written to `gradient`. Infinity where it is not defined. */
export type SmoothFunction = (z: Float64Array, gradient: Float64Array) => number;

/** Steps that are remembered to estimate how the function bends. */
const MEMORY = 8;
/** A step is halved until the function falls by this share of what its slope promises (Armijo 1966), so many times at most. */
const [PROMISED, HALVINGS] = [1e-4, 20];
/** Length of the first step, of which nothing is known. */
const FIRST = 0.1;

/**
 * Goes down from z by the limited-memory method of Broyden, Fletcher, Goldfarb and Shanno (Liu, Nocedal 1989). Changes z.
 * @param steps at most
 * @returns the value arrived at
 */
export function goDown(f: SmoothFunction, z: Float64Array, steps: number): number {
  const n = z.length;
  let gradient: Float64Array = new Float64Array(n);
  let value = f(z, gradient);
  const memory: { step: Float64Array; change: Float64Array; curvature: number }[] = [];
  const next = new Float64Array(n);
  let nextGradient: Float64Array = new Float64Array(n);
  for (let k = 0; k < steps; k++) {
    const way = direction(gradient, memory);
    const slope = inner(gradient, way);
    if (!(slope < 0)) break;
    let share = 1;
    let then = Infinity;
    for (let tries = 0; tries <= HALVINGS && !(then < value + PROMISED * share * slope); tries++) {
      share = 0.5 ** tries;
      for (let i = 0; i < n; i++) next[i] = z[i] + share * way[i];
      then = f(next, nextGradient);
    }
    if (!(then < value)) break;
    const step = difference(next, z);
    const change = difference(nextGradient, gradient);
    const curvature = inner(step, change);
    if (curvature > 0) memory.push({ step, change, curvature });
    if (memory.length > MEMORY) memory.shift();
    z.set(next);
    value = then;
    [gradient, nextGradient] = [nextGradient, gradient];
  }
  return value;
}

/** Minus the gradient times the estimated inverse of the second derivatives. */
function direction(gradient: Float64Array, memory: readonly { step: Float64Array; change: Float64Array; curvature: number }[]): Float64Array {
  const way = new Float64Array(gradient.length);
  for (let i = 0; i < way.length; i++) way[i] = -gradient[i];
  const shares = new Float64Array(memory.length);
  for (let k = memory.length - 1; k >= 0; k--) {
    const { step, change, curvature } = memory[k];
    shares[k] = inner(step, way) / curvature;
    addTo(way, change, -shares[k]);
  }
  const last = memory.at(-1);
  const scale = last ? last.curvature / inner(last.change, last.change) : FIRST / (Math.sqrt(inner(way, way)) || 1);
  for (let i = 0; i < way.length; i++) way[i] *= scale;
  memory.forEach(({ step, change, curvature }, k) => addTo(way, step, shares[k] - inner(change, way) / curvature));
  return way;
}

function difference(a: Float64Array, b: Float64Array): Float64Array {
  const result = new Float64Array(a.length);
  for (let i = 0; i < a.length; i++) result[i] = a[i] - b[i];
  return result;
}

function inner(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i] * b[i];
  return sum;
}

function addTo(a: Float64Array, b: Float64Array, factor: number): void {
  for (let i = 0; i < a.length; i++) a[i] += factor * b[i];
}
