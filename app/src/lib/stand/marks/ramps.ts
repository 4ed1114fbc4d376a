import { Color } from 'three';

/** Colours from the least value to the largest. */
export type Ramp = 'even' | 'signed';

/**
 * Stops in OKLab (Ottosson 2020): lightness, green to red, blue to yellow. Between them colours are mixed there, so that equal steps look
 * equal. The even one falls in lightness alone all the way; the signed one is lightest at 0.
 */
const STOPS: Record<Ramp, readonly (readonly [number, number, number])[]> = {
  even: [
    [0.95, -0.01, 0.03],
    [0.8, 0.0, 0.11],
    [0.62, 0.08, 0.1],
    [0.42, 0.1, 0.05],
    [0.25, 0.07, -0.02]
  ],
  signed: [
    [0.38, -0.01, -0.14],
    [0.68, -0.04, -0.09],
    [0.95, 0.0, 0.01],
    [0.68, 0.05, 0.1],
    [0.42, 0.07, 0.09]
  ]
};

/** Linear red, green and blue of a colour in OKLab. */
export function linear(L: number, a: number, b: number): [number, number, number] {
  const l = (L + 0.3963377774 * a + 0.2158037573 * b) ** 3;
  const m = (L - 0.1055613458 * a - 0.0638541728 * b) ** 3;
  const s = (L - 0.0894841775 * a - 1.291485548 * b) ** 3;
  const clamped = (x: number) => Math.min(1, Math.max(0, x));
  return [
    clamped(4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s),
    clamped(-1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s),
    clamped(-0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s)
  ];
}

/** The colour at a share of a ramp, 0 to 1, linear red, green and blue. */
export function rampColour(ramp: Ramp, share: number): [number, number, number] {
  const stops = STOPS[ramp];
  const at = Math.min(1, Math.max(0, Number.isFinite(share) ? share : 0)) * (stops.length - 1);
  const i = Math.min(stops.length - 2, Math.floor(at));
  const [from, to] = [stops[i], stops[i + 1]];
  const mixed = from.map((x, k) => x + (at - i) * (to[k] - x));
  return linear(mixed[0], mixed[1], mixed[2]);
}

/** A ramp as a CSS gradient from left to right. */
export function rampGradient(ramp: Ramp): string {
  const colours = Array.from({ length: 13 }, (_, i) => `#${new Color().setRGB(...rampColour(ramp, i / 12)).getHexString()}`);
  return `linear-gradient(to right, ${colours.join(', ')})`;
}
