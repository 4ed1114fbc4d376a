import { Cage } from '../mesh/cage.ts';
import { mergeFaces, splitEdge, splitFace } from '../mesh/euler-operators.ts';
import { joinCages } from '../mesh/join-cages.ts';
import { polygonMesh, type PolygonMesh } from '../mesh/polygon-mesh.ts';
import { replaceFaces } from '../mesh/replace-faces.ts';
import { type Triple } from '../numeric/vectors.ts';
import { denseSphere } from '../shapes/sample-surfaces.ts';
import { box, cylinder, plane, quadSphere } from '../shapes/start-shapes.ts';

/** A small cage that shows one kind of findings, and what is said of it. */
export interface Example {
  cage: Cage;
  reference?: PolygonMesh;
  /** where it comes from */
  cause: string;
  /** what it does to the smooth surface */
  effect: string;
}

const tube = () => Cage.fromPolygons(cylinder(10, 30, 20, 12, false));
const ball = (radius = 10, rows = 6) => Cage.fromPolygons(quadSphere(radius, rows));
const sheet = () => arched(Cage.fromPolygons(plane(24, 24, 8, 8)));

/** A cage with its places changed. @param cage changed */
function placed(cage: Cage, change: (p: Triple) => Triple): Cage {
  for (const v of cage.vertices()) cage.positions.set(change(cage.position(v)), 3 * v);
  return cage;
}
const arched = (cage: Cage) => placed(cage, ([x, , z]) => [x, 6 - (x * x + z * z) / 40, z]);

/** The face whose middle lies nearest to a place. */
function faceAt(cage: Cage, p: Triple): number {
  const off = (f: number) =>
    Math.hypot(...p.map((x, k) => cage.faceVertices(f).reduce((sum, v) => sum + cage.positions[3 * v + k], 0) / cage.faceSize(f) - x));
  return [...cage.faces()].reduce((a, b) => (off(b) < off(a) ? b : a));
}
const vertexAt = (cage: Cage, p: Triple): number => {
  const off = (v: number) => Math.hypot(...cage.position(v).map((x, k) => x - p[k]));
  return [...cage.vertices()].reduce((a, b) => (off(b) < off(a) ? b : a));
};
/** A cage with one vertex moved. @param cage changed */
function moved(cage: Cage, at: Triple, by: Triple): Cage {
  const v = vertexAt(cage, at);
  by.forEach((x, k) => (cage.positions[3 * v + k] += x));
  return cage;
}

function cutInTwo(): Cage {
  const cage = tube();
  const loop = cage.loopOf(cage.faceEdge[faceAt(cage, [10, 0, 0])]);
  splitFace(cage, loop[0], loop[2]);
  return cage;
}

function sixSided(): Cage {
  const cage = tube();
  const f = faceAt(cage, [10, 0, 0]);
  mergeFaces(cage, [f, cage.face[cage.faceEdge[f] ^ 1]]);
  return cage;
}

/** A cut across one face, which ends in the next. */
function endingCut(): Cage {
  const cage = tube();
  const f = faceAt(cage, [10, 0, 0]);
  const [h, , across] = cage.loopOf(cage.faceEdge[f]);
  const [a, b] = [splitEdge(cage, h >> 1, 0.5), splitEdge(cage, across >> 1, 0.5)];
  const loop = cage.loopOf(cage.faceEdge[f]);
  splitFace(
    cage,
    loop.find((k) => cage.origin[k] === a)!,
    loop.find((k) => cage.origin[k] === b)!
  );
  return cage;
}

/** A dome over six quads that meet in one vertex, with a row round them. */
function dome(): Cage {
  const ring = (radius: number): Triple[] =>
    Array.from({ length: 12 }, (_, i) => {
      const [x, z] = [radius * Math.cos((Math.PI * i) / 6), radius * Math.sin((Math.PI * i) / 6)];
      return [x, 10 - (x * x + z * z) / 14, z];
    });
  const inner = Array.from({ length: 6 }, (_, i) => [0, 1 + 2 * i, 1 + ((2 * i + 11) % 12), 1 + ((2 * i + 10) % 12)]);
  const outer = Array.from({ length: 12 }, (_, i) => [1 + i, 1 + ((i + 1) % 12), 13 + ((i + 1) % 12), 13 + i]);
  return Cage.fromPolygons(polygonMesh([[0, 10, 0], ...ring(5), ...ring(10)], [...inner, ...outer]));
}

/** A tube whose rows are one strip that winds up it. */
function winding(): Cage {
  const [round, turns] = [14, 8];
  const places = Array.from({ length: round * (turns + 1) }, (_, k): Triple => {
    const angle = (2 * Math.PI * k) / round;
    return [8 * Math.cos(angle), (3 * k) / round - 12, -8 * Math.sin(angle)];
  });
  const faces = Array.from({ length: round * turns - 1 }, (_, k) => [k, k + 1, k + 1 + round, k + round]);
  return Cage.fromPolygons(polygonMesh(places, faces));
}

function withoutFace(cage: Cage, at: Triple): Cage {
  replaceFaces(cage, { gone: [faceAt(cage, at)], added: [] });
  return cage;
}

/** An edge turned so that it joins the other two corners: two poles of three and two of five come to lie side by side. */
function swung(): Cage {
  const cage = sheet();
  const f = faceAt(cage, [1.5, 6, 1.5]);
  const h = cage.loopOf(cage.faceEdge[f]).find((k) => cage.face[k ^ 1] >= 0)!;
  const six = mergeFaces(cage, [f, cage.face[h ^ 1]]);
  const loop = cage.loopOf(cage.faceEdge[six]);
  const start = loop.findIndex((k) => cage.valence(cage.origin[k]) === 3);
  splitFace(cage, loop[(start + 1) % 6], loop[(start + 4) % 6]);
  return cage;
}

function creased(): Cage {
  const cage = ball();
  const v = vertexAt(cage, [10, 0, 0]);
  const [h] = cage.spokes(v);
  for (const k of [h, cage.next[cage.next[cage.next[h ^ 1]]]]) cage.setValue('crease', k >> 1, 10);
  return cage;
}

function turnedOver(): Cage {
  const mesh = quadSphere(6, 4);
  return Cage.fromPolygons({ ...mesh, faceVertices: Int32Array.from(mesh.faceVertices).reverse() });
}

/** Two sheets side by side. */
const beside = (coarse: number): Cage => {
  const left = placed(Cage.fromPolygons(plane(12, 24, 4, 8)), ([x, y, z]) => [x - 6, y, z]);
  const right = placed(Cage.fromPolygons(plane(12, 24, 4, coarse)), ([x, y, z]) => [x + 6, y, z]);
  return joinCages(arched(left), arched(right)).cage;
};
const flatBeside = (coarse: number): Cage => placed(beside(coarse), ([x, , z]) => [x, 0.02 * x * x, z]);

/** What makes the example of each kind, by its id, and what is said of it. */
const EXAMPLES: Record<string, Omit<Example, 'cage'> & { make(): Cage }> = {
  triangle: {
    make: cutInTwo,
    cause: 'A quad was cut from corner to corner, or triangles came with the file.',
    effect: 'On a bend the surface bulges or dents there, and the edge loop ends. In a flat place nothing shows.'
  },
  'n-gon': {
    make: sixSided,
    cause: 'An edge was taken out, or a cap was closed with one face.',
    effect: 'The surface is divided from the middle of the face: on a bend it bulges, and loops end there.'
  },
  'cut-end': {
    make: endingCut,
    cause: 'A cut was ended in the middle of a face, which has five sides since, though it looks as if it had four.',
    effect: 'The rows shift at its end, and the bend bulges.'
  },
  'unbraced-corner': {
    make: () => Cage.fromPolygons(box({ x: 24, y: 16, z: 24 }, { x: 4, y: 3, z: 4 })),
    cause: 'A sharp corner has nothing beside it that holds it, though all faces are clean quads.',
    effect: 'The surface rounds it far in, and pulls the flats beside it out of their planes.'
  },
  pole: {
    make: dome,
    cause: 'Six edges or more meet in one vertex: a fan was closed there, or loops were run together.',
    effect: 'On a bend the surface pinches at it. On a flat place it hardly shows: move it there.'
  },
  'poles-together': {
    make: swung,
    cause: 'An edge was turned, or two poles were pushed next to each other.',
    effect: 'Loops bend away from both: rows cannot be followed there. It shows little by itself.'
  },
  folded: {
    make: () => moved(sheet(), [0, 6, 0], [4.2, 0, 4.2]),
    cause: 'A vertex was pulled past its neighbours.',
    effect: 'The surface runs over itself there, and has a crease.'
  },
  'straight-corner': {
    make: () => moved(sheet(), [0, 6, 0], [1.5, -0.225, 1.5]),
    cause: 'Three corners of a quad came to lie on one line.',
    effect: 'It counts as a quad, and pinches as a triangle does.'
  },
  twisted: {
    make: () => moved(sheet(), [0, 6, 0], [0, 5, 0]),
    cause: 'One corner was lifted off the plane of the others.',
    effect: 'The surface leans over between the corners; which way it is cut elsewhere is chance.'
  },
  'size-jump': {
    make: () => placed(tube(), ([x, y, z]) => [x, y > 0 ? 3 * y : 0.35 * y, z]),
    cause: 'A loop was added near another one, or rows were spaced by eye.',
    effect: 'Highlights and patterns jump where rows change their depth.'
  },
  crack: {
    make: () => flatBeside(8),
    cause: 'Two pieces lie edge to edge with vertices of their own, not welded.',
    effect: 'Each side is smoothed by itself, and the surface opens between them.'
  },
  tee: {
    make: () => flatBeside(4),
    cause: 'A fine row ends at a coarse edge that has no vertices for it.',
    effect: 'The surface opens between the vertices of the fine side and the straight edge beside.'
  },
  hole: {
    make: () => withoutFace(ball(), [10, 0, 0]),
    cause: 'Faces were deleted, or never laid.',
    effect: 'One looks into the part; printers and joins refuse it.'
  },
  'open-border': {
    make: sheet,
    cause: 'The part is a sheet, or its end was left open.',
    effect: 'None, if it is meant so.'
  },
  turned: {
    make: turnedOver,
    cause: 'A piece was mirrored by scaling, or came so with the file.',
    effect: 'Its shading is wrong, and many programs do not show it at all.'
  },
  inside: {
    make: () => joinCages(ball(), ball(3, 3)).cage,
    cause: 'Pieces were put together without joining them, or something was left in the part.',
    effect: 'Nobody sees it. Printers fill it, and it costs faces.'
  },
  spiral: {
    make: winding,
    cause: 'A seam was welded one row off.',
    effect: 'The surface is sound, but a loop that is added there winds round and round.'
  },
  'open-crease': {
    make: creased,
    cause: 'An edge was made sharp without the one that goes on from it.',
    effect: 'The edge fades out over one face on either side.'
  },
  'far-off': {
    make: () => moved(ball(), [10, 0, 0], [4, 0, 0]),
    reference: denseSphere(24),
    cause: 'Vertices were moved, or laid, away from the dense mesh.',
    effect: 'The form is another one there than it should be.'
  },
  'nearly-symmetric': {
    make: () => moved(ball(), [5.8, 5.8, 5.8], [0.01, 0, 0]),
    cause: 'One side was touched by hand.',
    effect: 'It does not show, but what is mirrored later comes out uneven.'
  }
};

/** Ids of the kinds that have an example. */
export const exampleIds: readonly string[] = Object.keys(EXAMPLES);

/** The example of a kind of findings; nothing where there is none. */
export function exampleOf(kind: string): Example | undefined {
  const example = EXAMPLES[kind];
  if (!example) return undefined;
  const { make, ...said } = example;
  return { ...said, cage: make() };
}
