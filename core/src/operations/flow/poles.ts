import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { CageError, NONE } from '../../mesh/half-edges.ts';
import { cageOfFaces } from '../../mesh/join-cages.ts';
import { facesRound, isPole } from '../../mesh/topology.ts';
import { between } from '../../numeric/vectors.ts';
import { selectVertices, verticesOf, type Selection } from '../../select/selection.ts';
import { pickedTimesFaces, type CageOperation, type Refusal } from '../operation.ts';
import { refuse } from '../refusal.ts';
import { mergeVertices } from '../../mesh/merge-vertices.ts';
import { swing } from './swing-edge.ts';

/** A local change of connectivity that keeps quads quads, told by vertex ids. */
type Change = { kind: 'swing'; from: number; to: number; back: boolean } | { kind: 'fold'; from: number; to: number };

/** Swings an edge, or folds a quad by merging two opposite corners in their middle. @returns whether it could */
function apply(cage: Cage, change: Change): boolean {
  if (change.kind === 'swing') {
    const h = cage.findHalfEdge(change.from, change.to);
    if (h === NONE) return false;
    return swing(cage, h >> 1, change.back) !== NONE;
  }
  const { from, to } = change;
  if (cage.isBorderVertex(from) || cage.isBorderVertex(to) || cage.findHalfEdge(from, to) !== NONE) return false;
  try {
    mergeVertices(cage, [{ vertices: [from, to], at: between(cage.position(from), cage.position(to), 0.5) }]);
    return true;
  } catch (error) {
    if (error instanceof CageError) return false;
    throw error;
  }
}

/** Changes that can be made at the quads round some vertices. */
function changesAt(cage: Cage, vertices: number[]): Change[] {
  const quads = facesRound(cage, vertices, 1).filter((f) => cage.faceSize(f) === 4);
  const edges = new Set(quads.flatMap((f) => cage.loopOf(cage.faceEdge[f]).map((h) => h >> 1)));
  const isQuad = (f: number) => f !== NONE && cage.faceSize(f) === 4;
  const swings = [...edges]
    .filter((e) => isQuad(cage.face[2 * e]) && isQuad(cage.face[2 * e + 1]))
    .flatMap((e) => [false, true].map((back): Change => ({ kind: 'swing', from: cage.origin[2 * e], to: cage.origin[2 * e + 1], back })));
  const folds = quads.flatMap((f) => {
    const [a, b, c, d] = cage.faceVertices(f);
    return [
      { kind: 'fold', from: a, to: c },
      { kind: 'fold', from: b, to: d }
    ] as Change[];
  });
  return [...swings, ...folds];
}

/** A few rings of a cage in which changes are tried; valences are those of the whole cage. */
class Trial {
  readonly patch: Cage;
  readonly patchOf: Map<number, number>;
  private readonly extra: Map<number, number>;

  constructor(
    cage: Cage,
    readonly near: number[]
  ) {
    const { cage: patch, vertexOf } = cageOfFaces(cage, facesRound(cage, near, 3));
    this.patch = patch;
    this.patchOf = vertexOf;
    // edges of a vertex that the patch does not have
    this.extra = new Map([...vertexOf].map(([v, w]) => [w, cage.valence(v) - patch.valence(w)]));
    this.onBorder = new Set([...vertexOf].filter(([v]) => cage.isBorderVertex(v)).map(([, w]) => w));
  }
  private readonly onBorder: Set<number>;

  valence(cage: Cage, w: number): number {
    return cage.valence(w) + (this.extra.get(w) ?? 0);
  }

  /** Sum of how far valences are from regular; vertices of two edges count as very far. */
  unrest(cage: Cage): number {
    let sum = 0;
    for (const w of cage.vertices()) {
      const valence = this.valence(cage, w);
      const off = this.onBorder.has(w) ? Math.max(0, valence - 3) : Math.abs(valence - 4);
      sum += !this.onBorder.has(w) && valence < 3 ? 100 : off;
    }
    return sum;
  }

  /** The best of all single changes and pairs of them. @param score less is better; Infinity is no solution */
  search(score: (cage: Cage) => number): Change[] | undefined {
    const near = this.near.map((v) => this.patchOf.get(v)!);
    const start = score(this.patch);
    let best: { changes: Change[]; score: number } = { changes: [], score: start };
    const attempt = (cage: Cage, change: Change, before: Change[]): Cage | undefined => {
      const copy = cage.clone();
      if (!apply(copy, change)) return undefined;
      const reached = score(copy);
      if (reached < best.score) best = { changes: [...before, change], score: reached };
      return copy;
    };
    const singles = changesAt(this.patch, near).map((change) => ({ change, cage: attempt(this.patch, change, []) }));
    if (best.changes.length === 0)
      for (const { change, cage } of singles)
        if (cage)
          for (const second of changesAt(
            cage,
            near.filter((w) => cage.hasVertex(w))
          ))
            attempt(cage, second, [change]);
    return best.changes.length > 0 ? best.changes : undefined;
  }

  /** Makes the changes in the whole cage. */
  carryOut(cage: Cage, changes: Change[]): void {
    const wholeOf = new Map([...this.patchOf].map(([v, w]) => [w, v]));
    for (const change of changes) apply(cage, { ...change, from: wholeOf.get(change.from)!, to: wholeOf.get(change.to)! });
  }
}

const polesIn = (cage: Cage, selection: Selection): number[] => verticesOf(cage, selection).filter((v) => isPole(cage, v));

/** Cancels poles that lie close to each other. */
export const joinPoles: CageOperation = {
  kind: 'cage',
  id: 'join-poles',
  seconds: (cage, selection) => 6e-9 * pickedTimesFaces(cage, selection),
  bench: 3,
  name: 'Join poles',
  purpose: 'Cancel poles that lie close together, by the swings and folds of quads that leave the fewest.',
  icon: 'DirectionMerge',
  needs: 'Pick two poles or more that lie close together.',
  params: Joi.object({}),
  check: (cage, selection): Refusal | undefined =>
    polesIn(cage, selection).length < 2
      ? {
          found: `${polesIn(cage, selection).length === 0 ? 'No pole is' : 'Only one pole is'} picked.`,
          where: selection,
          instead: 'Pick the poles to cancel: a 3 and a 5, or two of each.'
        }
      : undefined,
  run: (cage, selection) => {
    const poles = polesIn(cage, selection);
    const copy = cage.clone();
    const counted = (c: Cage) => [...c.vertices()].filter((v) => isPole(c, v)).length;
    let steps = 0;
    for (let near = poles; near.length > 1;) {
      const trial = new Trial(copy, near);
      const changes = trial.search((patch) => trial.unrest(patch));
      if (!changes) break;
      trial.carryOut(copy, changes);
      steps += changes.length;
      near = near.filter((v) => copy.hasVertex(v) && isPole(copy, v));
    }
    if (steps === 0)
      refuse(
        'No swing or fold near these poles leaves fewer: a 3 and a 5 alone mark the end of a strip, which would have to go as a whole.',
        selectVertices(poles),
        'Take the strip out (collapse its ring), or move the poles towards another pair first.'
      );
    const gone = counted(cage) - counted(copy);
    const left = poles.filter((v) => copy.hasVertex(v) && isPole(copy, v));
    return {
      cage: copy,
      selection: selectVertices(left),
      notes: [`${gone} pole${gone === 1 ? '' : 's'} fewer, by ${steps} change${steps === 1 ? '' : 's'}.`]
    };
  }
};

/** Moves a pole by one face along an edge. */
export const movePole: CageOperation = {
  kind: 'cage',
  id: 'move-pole',
  bench: 3,
  name: 'Move pole',
  purpose: 'Move a pole along an edge to the next vertex, without making more poles.',
  icon: 'DirectionStraight',
  needs: 'Pick a pole, then the vertex beside it that it shall move to.',
  params: Joi.object({}),
  check: (cage, selection): Refusal | undefined => {
    const [pole, to] = selection.vertices;
    if (selection.vertices.length !== 2)
      return {
        found: `${selection.vertices.length} vertices are picked.`,
        where: selection,
        instead: 'Pick a pole, then the vertex beside it that it shall move to.'
      };
    if (!isPole(cage, pole)) return { found: 'The first picked vertex is no pole.', where: selectVertices([pole]), instead: 'Pick the pole first.' };
    if (cage.findHalfEdge(pole, to) === NONE)
      return {
        found: 'No edge joins the two picked vertices.',
        where: selection,
        instead: 'A pole moves by one face at a time: pick a vertex beside it.'
      };
    return isPole(cage, to)
      ? { found: 'The second picked vertex is a pole itself.', where: selectVertices([to]), instead: 'Join poles cancels them.' }
      : undefined;
  },
  run: (cage, selection) => {
    const [pole, to] = selection.vertices;
    const valence = cage.valence(pole);
    const copy = cage.clone();
    const trial = new Trial(cage, [pole, to]);
    const [p, q] = [trial.patchOf.get(pole)!, trial.patchOf.get(to)!];
    const unrest = trial.unrest(trial.patch);
    const regular = cage.isBorderVertex(pole) ? 3 : 4;
    const changes = trial.search((patch) => {
      if (patch === trial.patch) return 1e9;
      const arrived = patch.hasVertex(p) && patch.hasVertex(q) && trial.valence(patch, p) === regular && trial.valence(patch, q) === valence;
      const now = trial.unrest(patch);
      return arrived && now <= unrest ? now : Infinity;
    });
    if (!changes)
      return refuse(
        'No swings or folds move this pole there without more poles: its partner is too far away to take up the difference.',
        selectVertices([pole, to]),
        'Move it another way, or move the partner towards it first.'
      );
    trial.carryOut(copy, changes);
    return {
      cage: copy,
      selection: selectVertices([to]),
      notes: [`The pole of ${valence} moved by ${changes.length} change${changes.length === 1 ? '' : 's'}.`]
    };
  }
};
