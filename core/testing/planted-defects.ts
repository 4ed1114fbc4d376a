import { Cage } from '../src/mesh/cage.ts';
import { mergeFaces, splitEdge, splitFace, splitFacesAlong } from '../src/mesh/euler-operators.ts';
import { NONE } from '../src/mesh/half-edges.ts';
import { replaceFaces } from '../src/mesh/replace-faces.ts';
import { randomNumbers } from '../src/numeric/random.ts';
import { length, mean, subtract, type Triple } from '../src/numeric/vectors.ts';
import { ringThrough } from '../src/select/loops.ts';
import { plane, torus } from '../src/shapes/start-shapes.ts';

/** Kinds of defects that are planted. */
export const plantedKinds = ['triangle', 'n-gon', 'cut end', 'concave', 'hole', 'crack'] as const;
export type PlantedKind = (typeof plantedKinds)[number];

export interface Planted {
  kind: PlantedKind;
  place: Triple;
  /** the other end of a cut */
  other?: Triple;
  /** it lies where nothing bends */
  isFlat: boolean;
}

/** A cage with defects, and the one without them. */
export interface PlantedCage {
  clean: Cage;
  cage: Cage;
  planted: Planted[];
  /** one of the defects alone */
  alone(i: number): Cage;
}

/** Faces between two defects at least. */
const APART = 4;

/** Sheets with bends and flat stretches, and tori: clean quads, none of them by the same formula at two places. */
function cleanCage(seed: number): Cage {
  const random = randomNumbers(seed);
  const pick = seed % 4;
  if (pick === 3) {
    const ring = torus(20 + 6 * random(), 6 + 2 * random(), 36, 16);
    const [a, b] = [0.1 * random(), 0.15 * random()];
    for (let i = 0; i < ring.positions.length; i += 3) {
      ring.positions[i] *= 1 + a * Math.sin(ring.positions[i + 2] / 9);
      ring.positions[i + 1] *= 1 + b * Math.cos(ring.positions[i] / 11);
    }
    return Cage.fromPolygons(ring);
  }
  const sheet = plane(52, 40, 26, 20);
  const p = sheet.positions;
  const [radius, high, wide] = [5 + 3 * random(), 2 + 3 * random(), 5 + 3 * random()];
  const slant = pick === 2 ? 0.25 * random() : 0;
  for (let i = 0; i < p.length; i += 3) {
    const [x, z] = [p[i] + slant * p[i + 2], p[i + 2]];
    if (pick === 1) {
      // a rounded hill, flat round it
      const r = Math.hypot(x + 5, 0.8 * z) / (2.2 * wide);
      p[i + 1] = r < 1 ? high * (1 - r * r) ** 3 * (1 + 0.3 * Math.sin(x / 3)) : 0;
      continue;
    }
    // flat, a bend of 90 degrees, flat
    const bend = (radius * Math.PI) / 2;
    const along = x + bend / 2;
    if (along < 0) [p[i], p[i + 1]] = [along, 0];
    else if (along < bend) [p[i], p[i + 1]] = [radius * Math.sin(along / radius), -radius * (1 - Math.cos(along / radius))];
    else [p[i], p[i + 1]] = [radius, -radius - (along - bend)];
    p[i + 2] = z;
  }
  return Cage.fromPolygons(sheet);
}

const middleOf = (cage: Cage, f: number): Triple => mean(cage.faceVertices(f).map((v) => cage.position(v)));

/** Whether the faces about one lie in one plane. */
function isFlatRound(cage: Cage, place: Triple, reach: number): boolean {
  const near = [...cage.vertices()].map((v) => cage.position(v)).filter((p) => length(subtract(p, place)) < reach);
  const [a, b, c] = [near[0], near[1], near.find((p) => Math.abs(cornerOf(near[0], near[1], p)) > 0.1)];
  if (!a || !b || !c) return false;
  const n = crossOf(subtract(b, a), subtract(c, a));
  const size = length(n);
  return near.every((p) => Math.abs(n[0] * (p[0] - a[0]) + n[1] * (p[1] - a[1]) + n[2] * (p[2] - a[2])) / size < 1e-3);
}
const crossOf = (u: Triple, w: Triple): Triple => [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
const cornerOf = (a: Triple, b: Triple, c: Triple): number => length(crossOf(subtract(b, a), subtract(c, a)));

/** Plants one defect at a face. @returns where it is seen; nothing where it cannot be there */
function plant(cage: Cage, f: number, kind: PlantedKind): Triple[] | undefined {
  const loop = cage.loopOf(cage.faceEdge[f]);
  const place = middleOf(cage, f);
  switch (kind) {
    case 'triangle':
      splitFace(cage, loop[0], loop[2]);
      return [place];
    case 'n-gon': {
      const other = cage.face[loop[1] ^ 1];
      return other === NONE || mergeFaces(cage, [f, other]) === NONE ? undefined : [place];
    }
    case 'cut end': {
      // a loop that ends after three quads
      const { halves } = ringThrough(cage, loop[0]);
      const at = halves.findIndex((h) => h >> 1 === loop[0] >> 1);
      const run = halves.slice(at, at + 4);
      if (run.length < 4) return undefined;
      const ends = [cage.face[run[3]], cage.face[run[0] ^ 1]];
      if (ends.includes(NONE)) return undefined;
      const [end, start] = ends.map((g) => middleOf(cage, g));
      const cut = run.map((h) => splitEdge(cage, h >> 1, 0.5));
      splitFacesAlong(cage, cut);
      return [end, start];
    }
    case 'concave': {
      const [v, opposite] = [cage.origin[loop[0]], cage.origin[loop[2]]];
      const [a, b] = [cage.position(v), cage.position(opposite)];
      cage.positions.set(
        [0, 1, 2].map((k) => a[k] + 0.7 * (b[k] - a[k])),
        3 * v
      );
      return [place];
    }
    case 'hole':
      replaceFaces(cage, { gone: [f], added: [] });
      return [place];
    case 'crack': {
      // one edge of the face has its vertices twice
      const h = loop[0];
      if (cage.isBorderEdge(h >> 1)) return undefined;
      const v = cage.origin[h];
      const twin = cage.addVertex(...cage.position(v));
      const corners = cage.faceVertices(f).map((c) => (c === v ? twin : c));
      replaceFaces(cage, { gone: [f], added: [{ corners }] });
      return [cage.position(v)];
    }
  }
}

/** A cage with some planted defects, by number. @param many defects */
export function plantedCage(seed: number, many = 6): PlantedCage {
  const clean = cleanCage(seed);
  const random = randomNumbers(seed + 1000);
  const cage = clean.clone();
  const planted: Planted[] = [];
  const sites: { face: number; kind: PlantedKind }[] = [];
  const faces = [...clean.faces()];
  const taken: Triple[] = [];
  const edge = clean.edgeLength(0);
  const isInside = (f: number) => clean.faceVertices(f).every((v) => !clean.isBorderVertex(v));
  for (let attempt = 0; attempt < 400 && planted.length < many; attempt++) {
    const face = faces[Math.floor(random() * faces.length)];
    const kind = plantedKinds[(planted.length + seed) % plantedKinds.length];
    const own = middleOf(clean, face);
    if (!isInside(face) || taken.some((p) => length(subtract(p, own)) < 2 * APART * edge)) continue;
    const trial = cage.clone();
    const places = plant(trial, face, kind);
    if (!places) continue;
    plant(cage, face, kind);
    const [place, other] = places;
    taken.push(own, ...places);
    sites.push({ face, kind });
    planted.push({ kind, place, other, isFlat: isFlatRound(clean, place, 2.4 * edge) });
  }
  const alone = (i: number): Cage => {
    const one = clean.clone();
    plant(one, sites[i].face, sites[i].kind);
    return one;
  };
  return { clean, cage, planted, alone };
}
