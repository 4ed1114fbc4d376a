import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { isEmpty, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';

type Triple = [number, number, number];

const needsPick = 'Pick vertices, edges or faces first.';
const checkPicked = (_cage: Cage, selection: Selection): Refusal | undefined =>
  isEmpty(selection) ? { found: 'Nothing is picked.', instead: needsPick } : undefined;

/** Mean of the picked vertices: where turning and scaling happen about. */
export function centreOf(cage: Cage, vertices: number[]): Triple {
  const sum: Triple = [0, 0, 0];
  for (const v of vertices) for (let k = 0; k < 3; k++) sum[k] += cage.positions[3 * v + k] / vertices.length;
  return sum;
}

/** A copy of the cage with the picked vertices put through a function of their place. */
function moved(cage: Cage, selection: Selection, change: (p: Triple, centre: Triple) => Triple): CageResult {
  const copy = cage.clone();
  const vertices = verticesOf(cage, selection);
  const centre = centreOf(cage, vertices);
  for (const v of vertices) copy.positions.set(change(cage.position(v), centre), 3 * v);
  return { cage: copy, selection, notes: [] };
}

const number = (label: string, unit: string, initial: number, step: number) => Joi.number().default(initial).label(label).unit(unit).meta({ step });

export const move: CageOperation = {
  kind: 'cage',
  id: 'move',
  bench: 3,
  name: 'Move',
  purpose: 'Shift what is picked by typed distances or by handles.',
  icon: 'Move',
  key: 'Z',
  needs: needsPick,
  params: Joi.object({ x: number('X', 'mm', 0, 0.5), y: number('Y', 'mm', 0, 0.5), z: number('Z', 'mm', 0, 0.5) }),
  check: checkPicked,
  run: (cage, selection, params: Params) => {
    const { x, y, z } = params as Record<string, number>;
    return moved(cage, selection, (p) => [p[0] + x, p[1] + y, p[2] + z]);
  }
};

export const rotate: CageOperation = {
  kind: 'cage',
  id: 'rotate',
  bench: 3,
  name: 'Rotate',
  purpose: 'Turn what is picked about its centre by degrees.',
  icon: 'Rotate',
  key: 'X',
  needs: needsPick,
  params: Joi.object({ x: number('About X', '°', 0, 5), y: number('About Y', '°', 0, 5), z: number('About Z', '°', 0, 5) }),
  check: checkPicked,
  run: (cage, selection, params: Params) => {
    const { x, y, z } = params as Record<string, number>;
    const turn = (p: Triple, i: number, j: number, degrees: number) => {
      const [c, s] = [Math.cos((degrees * Math.PI) / 180), Math.sin((degrees * Math.PI) / 180)];
      [p[i], p[j]] = [c * p[i] - s * p[j], s * p[i] + c * p[j]];
    };
    return moved(cage, selection, (p, centre) => {
      const q: Triple = [p[0] - centre[0], p[1] - centre[1], p[2] - centre[2]];
      turn(q, 1, 2, x);
      turn(q, 2, 0, y);
      turn(q, 0, 1, z);
      return [q[0] + centre[0], q[1] + centre[1], q[2] + centre[2]];
    });
  }
};

export const scale: CageOperation = {
  kind: 'cage',
  id: 'scale',
  bench: 3,
  name: 'Scale',
  purpose: 'Make what is picked larger or smaller about its centre.',
  icon: 'Maximize',
  key: 'C',
  needs: needsPick,
  params: Joi.object({ x: number('X', '%', 100, 5), y: number('Y', '%', 100, 5), z: number('Z', '%', 100, 5) }),
  check: (cage, selection, params) => {
    const flat = ['x', 'y', 'z'].find((axis) => params[axis] === 0);
    if (flat && verticesOf(cage, selection).length === cage.vertexCount)
      return { found: `0 % would flatten the whole part along ${flat.toUpperCase()}.`, instead: 'Use 0.1 % or more.' };
    return checkPicked(cage, selection);
  },
  run: (cage, selection, params: Params) => {
    const { x, y, z } = params as Record<string, number>;
    return moved(cage, selection, (p, c) => [c[0] + ((p[0] - c[0]) * x) / 100, c[1] + ((p[1] - c[1]) * y) / 100, c[2] + ((p[2] - c[2]) * z) / 100]);
  }
};
