import Joi from 'joi';
import { bridge } from '../../fill/bridge.ts';
import { describeHole, holeAlong, holesOf, type Hole } from '../../fill/hole.ts';
import { type Cage } from '../../mesh/cage.ts';
import { mean, subtract } from '../../numeric/vectors.ts';
import { selectFaces, selectVertices, type Selection } from '../../select/selection.ts';
import { type CageOperation, type Refusal } from '../operation.ts';
import { counted } from '../words.ts';
import { edgesOfHoles, pickedByBorder } from './borders-meant.ts';

interface BridgeParams {
  rows: number;
  offset: number;
  curved: number;
  unequal: 'quads' | 'refuse';
}

/** Borders that are picked; with nothing picked all, where there are two. */
function bordersMeant(cage: Cage, selection: Selection): Hole[] {
  const holes = holesOf(cage);
  return pickedByBorder(cage, selection, holes, (hole) => [hole]) ?? (holes.length === 2 ? holes : []);
}

/** Borders in pairs, the nearest ones first. */
function pairs(holes: Hole[]): [Hole, Hole][] {
  const left = new Set(holes);
  const apart = (a: Hole, b: Hole) => Math.hypot(...subtract(mean(a.places), mean(b.places)));
  const all = holes.flatMap((a, i) => holes.slice(i + 1).map((b) => ({ a, b, far: apart(a, b) }))).sort((x, y) => x.far - y.far);
  const found: [Hole, Hole][] = [];
  for (const { a, b } of all)
    if (left.has(a) && left.has(b)) {
      found.push([a, b]);
      left.delete(a);
      left.delete(b);
    }
  return found;
}

function check(cage: Cage, selection: Selection, params: BridgeParams): Refusal | undefined {
  const meant = bordersMeant(cage, selection);
  if (meant.length === 0 || meant.length % 2 !== 0)
    return {
      found: `${meant.length === 0 ? 'No border is' : meant.length === 1 ? 'One border is' : `${meant.length} borders are`} picked; a bridge joins two, or several pairs.`,
      where: edgesOfHoles(...(meant.length > 0 ? meant : holesOf(cage))),
      instead: 'Pick an edge of each border.'
    };
  for (const [a, b] of pairs(meant)) {
    const shared = a.vertices.filter((v) => b.vertices.includes(v));
    if (shared.length > 0)
      return { found: `The two borders share ${shared.length} vertices.`, where: selectVertices(shared), instead: 'Open them there first.' };
    if (params.unequal === 'refuse' && a.vertices.length !== b.vertices.length)
      return {
        found: `The borders have ${a.vertices.length} and ${b.vertices.length} edges.`,
        where: edgesOfHoles(a, b),
        instead: `Add ${Math.abs(a.vertices.length - b.vertices.length)} loops on the poorer side, or allow quads with three corners on one rim.`,
        numbers: true
      };
  }
  return undefined;
}

/** Joins borders by rows of quads. */
export const bridgeOperation: CageOperation = {
  kind: 'cage',
  id: 'bridge',
  bench: 5,
  key: 'X',
  group: 'Holes',
  name: 'Bridge',
  purpose: 'Join two borders, or several pairs, by rows of quads, straight or curved, also where their counts differ.',
  icon: 'Connect',
  needs: 'Two borders: pick an edge of each.',
  params: Joi.object({
    rows: Joi.number().integer().min(1).max(200).default(1).label('Rows').meta({ step: 1 }),
    offset: Joi.number().integer().min(-2000).max(2000).default(0).label('Start offset').meta({ step: 1 }),
    curved: Joi.number().min(0).max(3).default(0).label('Curved').meta({ step: 0.1, slider: true }),
    unequal: Joi.string()
      .valid('quads', 'refuse')
      .default('quads')
      .label('Unequal counts')
      .meta({ labels: { quads: 'Quads that take two edges', refuse: 'Say so' } })
  }),
  check: (cage, selection, params) => check(cage, selection, params as unknown as BridgeParams),
  run: (cage, selection, params) => {
    const p = params as unknown as BridgeParams;
    const copy = cage.clone();
    const faces: number[] = [];
    const notes = pairs(bordersMeant(cage, selection)).map(([a, b]) => {
      const made = bridge(copy, holeAlong(copy, a.halves), holeAlong(copy, b.halves), p);
      faces.push(...made);
      const triangles = made.filter((f) => copy.faceSize(f) === 3).length;
      const odd = triangles > 0 ? ` One triangle is left: the counts together are odd.` : '';
      return `${describeHole(a)}, joined to ${describeHole(b)}: ${counted(made.length, 'face')}.${odd}`;
    });
    return { cage: copy, selection: selectFaces(faces), notes };
  }
};
