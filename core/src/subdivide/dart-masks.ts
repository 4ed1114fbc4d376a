import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { type Scheme } from './level-plan.ts';
import { loopBeta } from './loop.ts';

/**
 * Weights at a dart, a vertex where one crease that stays ends: over the vertex, its edges' other ends counter-clockwise from
 * the crease, and for Catmull-Clark the faces' opposite corners, the first behind the crease.
 */
export interface DartMasks {
  position: Float64Array;
  tangents: [Float64Array, Float64Array];
}

const known = new Map<string, DartMasks>();

/**
 * Limit position and tangents of a dart. No closed form is published: they are the left eigenvectors of the vertex's own
 * subdivision matrix (Halstead, Kass, DeRose 1993, section 3), for the eigenvalue 1 and the two largest below it.
 */
export function dartMasks(scheme: Scheme, valence: number): DartMasks {
  const key = `${scheme} ${valence}`;
  let masks = known.get(key);
  if (!masks) known.set(key, (masks = computed(scheme === 'loop' ? loopMatrix(valence) : quadMatrix(valence))));
  return masks;
}

function computed(step: Matrix): DartMasks {
  const { realEigenvalues, eigenvectorMatrix } = new EigenvalueDecomposition(step.transpose());
  const order = realEigenvalues.map((_, i) => i).sort((a, b) => realEigenvalues[b] - realEigenvalues[a]);
  const vector = (rank: number) => Float64Array.from(eigenvectorMatrix.getColumn(order[rank]));
  const position = vector(0);
  const sum = position.reduce((total, w) => total + w, 0);
  return { position: position.map((w) => w / sum), tangents: [vector(1), vector(2)] };
}

function quadMatrix(n: number): Matrix {
  const size = 2 * n + 1;
  const rows = Matrix.zeros(size, size);
  const edge = (i: number) => 1 + (i % n);
  const face = (i: number) => 1 + n + ((i + n) % n);
  const addTo = (row: number, column: number, w: number) => rows.set(row, column, rows.get(row, column) + w);
  const addFacePoint = (row: number, i: number, w: number) => [0, edge(i), edge(i + 1), face(i)].forEach((column) => addTo(row, column, w / 4));
  addTo(0, 0, (n - 2) / n);
  for (let i = 0; i < n; i++) {
    addTo(0, edge(i), 1 / n ** 2);
    addFacePoint(0, i, 1 / n ** 2);
    addFacePoint(face(i), i, 1);
    const share = i === 0 ? 1 / 2 : 1 / 4;
    addTo(edge(i), 0, share);
    addTo(edge(i), edge(i), share);
    if (i > 0) for (const f of [i - 1, i]) addFacePoint(edge(i), f, 1 / 4);
  }
  return rows;
}

function loopMatrix(n: number): Matrix {
  const rows = Matrix.zeros(n + 1, n + 1);
  const edge = (i: number) => 1 + ((i + n) % n);
  const beta = loopBeta(n);
  rows.set(0, 0, 1 - n * beta);
  for (let i = 0; i < n; i++) {
    rows.set(0, edge(i), beta);
    rows.set(edge(i), 0, i === 0 ? 1 / 2 : 3 / 8);
    rows.set(edge(i), edge(i), i === 0 ? 1 / 2 : 3 / 8);
    if (i > 0) for (const side of [i - 1, i + 1]) rows.set(edge(i), edge(side), rows.get(edge(i), edge(side)) + 1 / 8);
  }
  return rows;
}
