import * as THREE from 'three';

/** Pixels across the picture of the ball. */
const SIZE = 256;

type Light = readonly [x: number, y: number, z: number, strength: number, wrap: number];
/** Soft key from the upper left, cool fill from the right, a faint one from behind and above for the rim. */
const KEY: Light = [-0.5, 0.68, 0.54, 0.62, 0.35];
const FILL: Light = [0.78, -0.1, 0.45, 0.2, 0.4];
const RIM: Light = [0.35, 0.75, -0.56, 0.3, 0.1];
/** What light there is everywhere, from above more than from below. */
const [ABOVE, BELOW] = [0.42, 0.2];

const lit = (n: readonly number[], [x, y, z, strength, wrap]: Light): number => {
  const long = Math.hypot(x, y, z);
  return strength * Math.max(0, ((n[0] * x + n[1] * y + n[2] * z) / long + wrap) / (1 + wrap)) ** 1.4;
};

/** Red, green and blue, 0 to 1, of a grey and a tint that is added where it is dark or light. */
function shade(n: readonly number[], colour: THREE.Color): [number, number, number] {
  const around = BELOW + (ABOVE - BELOW) * (0.5 + 0.5 * n[1]);
  const [key, fill, rim] = [lit(n, KEY), lit(n, FILL), lit(n, RIM)];
  // hollows and turns away from the eye are darker, so that form is read without lines
  const facing = 0.72 + 0.28 * Math.sqrt(Math.max(0, n[2]));
  const gloss = 0.16 * Math.max(0, lit(n, [KEY[0], KEY[1], KEY[2] + 0.6, 1, 0])) ** 18;
  const light = (around + key) * facing;
  return [
    Math.min(1, colour.r * (light + 0.86 * fill + rim) + gloss),
    Math.min(1, colour.g * (light + 0.96 * fill + rim) + gloss),
    Math.min(1, colour.b * (light + 1.12 * fill + rim) + gloss)
  ];
}

const made = new Map<string, THREE.DataTexture>();

/** A ball of clay in a colour, as the stand lights it: what every surface takes its shade from, by the way it looks. */
export function clayBall(colour: string): THREE.DataTexture {
  const base = new THREE.Color(colour);
  return ball(colour, (n) => shade(n, base));
}

/** Line lights that are mirrored from one side to the other of a ball, and how dark it is between them. */
const [LIGHTS, DARK] = [14, 0.16];

/** A ball that mirrors line lights across the view, in grey: stripes of equal angle of the mirrored ray, smooth at their edges. */
export const stripedBall = (): THREE.DataTexture =>
  ball('line lights', (n) => {
    // the ray from the eye, mirrored; its turn about the lights' direction
    const turn = Math.atan2(2 * n[2] * n[0], 2 * n[2] * n[2] - 1) / Math.PI;
    const wave = 0.5 + 0.5 * Math.cos(Math.PI * LIGHTS * turn);
    const light = DARK + (0.97 - DARK) * Math.min(1, Math.max(0, (wave - 0.42) / 0.16));
    return [light, light, light];
  });

/** A ball by the colour, 0 to 1, that it has where it looks along a unit vector. @param name tells balls apart */
function ball(name: string, colourOf: (n: readonly number[]) => readonly [number, number, number]): THREE.DataTexture {
  const present = made.get(name);
  if (present) return present;
  const shown = new THREE.Color();
  const data = new Uint8Array(4 * SIZE * SIZE);
  for (let j = 0; j < SIZE; j++)
    for (let i = 0; i < SIZE; i++) {
      let [x, y] = [(2 * (i + 0.5)) / SIZE - 1, (2 * (j + 0.5)) / SIZE - 1];
      const away = Math.hypot(x, y);
      // what lies outside the ball is only met by rounding
      if (away > 0.999) [x, y] = [(0.999 * x) / away, (0.999 * y) / away];
      shown.setRGB(...colourOf([x, y, Math.sqrt(1 - x * x - y * y)])).convertLinearToSRGB();
      data.set([255 * shown.r, 255 * shown.g, 255 * shown.b, 255], 4 * (j * SIZE + i));
    }
  const texture = new THREE.DataTexture(data, SIZE, SIZE);
  texture.colorSpace = THREE.SRGBColorSpace;
  texture.magFilter = texture.minFilter = THREE.LinearFilter;
  texture.needsUpdate = true;
  made.set(name, texture);
  return texture;
}
