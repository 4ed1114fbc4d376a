import { type Cage } from '../mesh/cage.ts';
import { borderLoops, faceSizes, islands, isPole } from '../mesh/topology.ts';
import { type Reference } from '../reference/reference.ts';

/** What the readings show of a cage. Lengths in mm, angles in degrees. */
export interface Measures {
  vertices: number;
  edges: number;
  faces: number;
  triangles: number;
  quads: number;
  ngons: number;
  /** poles by valence, inside and on borders */
  poles: { valence: number; count: number }[];
  borders: number;
  islands: number;
  edgeLength: { mean: number; least: number; most: number };
  /** spacing: standard deviation of the edge lengths over their mean */
  spacing: number;
  corners: { least: number; most: number; meanOff90: number };
}

/** Counts, poles, spacing, edge lengths in mm and corner angles in degrees of a cage; lists are in the order of its edges and faces. */
export function measure(cage: Cage): Measures {
  let least = Infinity;
  let most = 0;
  let off = 0;
  let corners = 0;
  for (const f of cage.faces()) {
    for (const angle of cornerAngles(cage, f)) {
      least = Math.min(least, angle);
      most = Math.max(most, angle);
      off += Math.abs(angle - 90);
      corners++;
    }
  }
  const poles = new Map<number, number>();
  for (const v of cage.vertices()) if (isPole(cage, v)) poles.set(cage.valence(v), (poles.get(cage.valence(v)) ?? 0) + 1);
  const lengths = edgeLengths(cage);
  const stats = lengthStatistics(lengths);
  return {
    vertices: cage.vertexCount,
    edges: cage.edgeCount,
    faces: cage.faceCount,
    ...faceSizes(cage),
    poles: [...poles].sort((a, b) => a[0] - b[0]).map(([valence, count]) => ({ valence, count })),
    borders: borderLoops(cage).length,
    islands: islands(cage).count,
    edgeLength: { mean: stats.mean, least: stats.least, most: stats.most },
    spacing: stats.spread,
    corners: { least: corners ? least : 0, most, meanOff90: corners ? off / corners : 0 }
  };
}

/** Lengths by edge, in mm, in the order of `cage.edges()`. */
export function edgeLengths(cage: Cage): Float64Array {
  return Float64Array.from(cage.edges(), (e) => cage.edgeLength(e));
}

/** Of some lengths: mean, least and most, mm, and their standard deviation over the mean. */
export function lengthStatistics(lengths: ArrayLike<number> & Iterable<number>): { mean: number; spread: number; least: number; most: number } {
  if (lengths.length === 0) return { mean: 0, spread: 0, least: 0, most: 0 };
  let sum = 0;
  let least = Infinity;
  let most = 0;
  for (const l of lengths) {
    sum += l;
    least = Math.min(least, l);
    most = Math.max(most, l);
  }
  const mean = sum / lengths.length;
  let square = 0;
  for (const l of lengths) square += (l - mean) ** 2;
  return { mean, spread: mean > 0 ? Math.sqrt(square / lengths.length) / mean : 0, least, most };
}

/** Inner angle at every corner of a face, in degrees, in the order of its loop. */
export function cornerAngles(cage: Cage, f: number): number[] {
  const p = cage.positions;
  const v = cage.faceVertices(f);
  return v.map((b, i) => {
    const a = v[(i + v.length - 1) % v.length];
    const c = v[(i + 1) % v.length];
    let dot = 0;
    let aa = 0;
    let cc = 0;
    for (let k = 0; k < 3; k++) {
      const x = p[3 * a + k] - p[3 * b + k];
      const y = p[3 * c + k] - p[3 * b + k];
      dot += x * y;
      aa += x * x;
      cc += y * y;
    }
    const cosine = dot / Math.sqrt(aa * cc || 1);
    return (Math.acos(Math.min(1, Math.max(-1, cosine))) * 180) / Math.PI;
  });
}

/** Edges shorter or longer than the mean by more than twice the standard deviation. */
export function unevenEdges(cage: Cage): number[] {
  const lengths = edgeLengths(cage);
  const { mean, spread } = lengthStatistics(lengths);
  return [...cage.edges()].filter((_, i) => Math.abs(lengths[i] - mean) > 2 * spread * mean);
}

/** Faces with a corner below 45 or above 135 degrees. */
export function skewFaces(cage: Cage): number[] {
  return [...cage.faces()].filter((f) => cornerAngles(cage, f).some((angle) => angle < 45 || angle > 135));
}

/** Distances of points to a reference, in mm. */
export interface Deviation {
  mean: number;
  most: number;
  /** by point */
  distance: Float64Array;
  /** by point: below 0 where it lies inside, as far as the reference tells sides */
  signed: Float64Array;
}

/** Distances below this share of the largest coordinate are rounding. */
const ROUNDING = 1e-13;

/** @param points x, y, z each; what rounding alone takes off the reference lies on it */
export function deviation(reference: Pick<Reference, 'signedDistances'> | Pick<Reference, 'distances'>, points: Float64Array): Deviation {
  const rounding = ROUNDING * points.reduce((largest, x) => Math.max(largest, Math.abs(x)), 0);
  const signed = ('signedDistances' in reference ? reference.signedDistances(points) : reference.distances(points)).map((d) =>
    Math.abs(d) < rounding ? 0 : d
  );
  const distance = signed.map(Math.abs);
  let sum = 0;
  let most = 0;
  for (const d of distance) {
    sum += d;
    most = Math.max(most, d);
  }
  return { mean: distance.length ? sum / distance.length : 0, most, distance, signed };
}

/** Values counted in equal bins. */
export interface Histogram {
  /** lower bound of the first bin and width of all */
  from: number;
  width: number;
  counts: number[];
}

/** Equal bins from the least to the greatest value. @param bins how many; one where values differ by rounding alone, none where there are none */
export function histogram(values: ArrayLike<number>, bins = 24): Histogram {
  let low = Infinity;
  let high = -Infinity;
  for (let i = 0; i < values.length; i++) {
    low = Math.min(low, values[i]);
    high = Math.max(high, values[i]);
  }
  if (values.length === 0) return { from: 0, width: 1, counts: [] };
  // values that differ by rounding alone are one value
  const spread = high - low > 1e-9 * Math.max(Math.abs(low), Math.abs(high)) ? high - low : 1;
  const width = spread / bins;
  const counts = new Array<number>(bins).fill(0);
  for (let i = 0; i < values.length; i++) counts[Math.min(bins - 1, Math.max(0, Math.floor((values[i] - low) / width)))]++;
  return { from: low, width, counts };
}
