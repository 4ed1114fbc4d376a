import Joi from 'joi';
import { cornersOf, shapedLine, type LineShape } from '../../even/shape-line.ts';
import { type Cage } from '../../mesh/cage.ts';
import { vertexNormal } from '../../mesh/normals.ts';
import { cross, mean, subtract, type Triple } from '../../numeric/vectors.ts';
import { selectVertices, type Selection } from '../../select/selection.ts';
import { type CageOperation, type CageResult, type Params, type Refusal } from '../operation.ts';
import { linesOf, type VertexLine } from '../shared/chains.ts';
import { keepSurfaceField } from '../shared/keep-surface.ts';

interface ShapeParams {
  keeps: 'ends' | 'picks';
  bow: number;
  towards: 'normal' | 'side';
  roundness: number;
  smooth: boolean;
  corners: number;
  spacing: LineShape['spacing'];
}

/** A line that is shaped, and the numbers of its vertices that stay. */
interface ShapedLine extends VertexLine {
  stays: number[];
}

function linesToShape(cage: Cage, selection: Selection, { keeps, corners }: ShapeParams): ShapedLine[] {
  const picked = new Set(keeps === 'picks' ? selection.vertices : []);
  return linesOf(cage, selection).map((line) => {
    const points = line.vertices.map((v) => cage.position(v));
    const turning = new Set(cornersOf(points, line.closed, corners));
    return { ...line, stays: [...line.vertices.keys()].filter((i) => turning.has(i) || picked.has(line.vertices[i])) };
  });
}

/** Vertices between those that stay. */
const between = ({ vertices, stays }: ShapedLine): number => vertices.length - stays.length;

function check(cage: Cage, selection: Selection, params: Params): Refusal | undefined {
  const p = params as unknown as ShapeParams;
  const lines = linesToShape(cage, selection, p);
  if (lines.length === 0)
    return {
      found: 'No chain of edges is picked.',
      where: selection,
      instead: 'Pick edges that follow each other, or faces for their outline.'
    };
  const round = lines.find(({ closed, stays }) => closed && stays.length < 2);
  if (round)
    return {
      numbers: true,
      found: 'A closed loop without corners has no ends to lie between.',
      where: selectVertices(round.vertices),
      instead: 'Pick two or more of its vertices as well and keep the picks, lower the angle of corners, or use Make round.'
    };
  if (lines.every((line) => between(line) === 0))
    return {
      numbers: true,
      found: 'All vertices of the chain stay: none lies between two that do.',
      where: selectVertices(lines.flatMap(({ vertices }) => vertices)),
      instead: p.keeps === 'picks' ? 'Keep the ends only, or pick fewer vertices.' : 'Pick a longer chain, or raise the angle of corners.'
    };
  return undefined;
}

function run(cage: Cage, selection: Selection, params: Params): CageResult {
  const p = params as unknown as ShapeParams;
  const copy = cage.clone();
  for (const { vertices, closed, stays } of linesToShape(cage, selection, p)) {
    const points = vertices.map((v) => cage.position(v));
    const towards = (from: number, to: number): Triple => {
      const many = vertices.length;
      const piece = Array.from({ length: ((to - from + many) % many || many) + 1 }, (_, i) => vertices[(from + i) % many]);
      const normal = mean(piece.map((v) => vertexNormal(cage, v)));
      return p.towards === 'normal' ? normal : cross(normal, subtract(points[to], points[from]));
    };
    const shape = { ...p, roundness: p.roundness / 100 };
    const places = shapedLine(points, stays, closed, shape, towards);
    vertices.forEach((v, i) => copy.positions.set(places[i], 3 * v));
  }
  return { cage: copy, selection, notes: [] };
}

/** Pulls picked chains straight, bows them by mm, or lays a smooth curve through the vertices that stay. */
export const shapeChain: CageOperation = {
  kind: 'cage',
  id: 'shape-chain',
  bench: 6,
  key: 'V',
  name: 'Shape a chain',
  purpose: 'Pull picked chains straight between their ends, bow them to either side by mm, or lay them on a curve through picked vertices.',
  icon: 'MathCurve',
  needs: 'Pick edges that follow each other.',
  keepsSurface: 'there too',
  params: Joi.object({
    bow: Joi.number().min(-1e6).max(1e6).default(0).label('Bow').unit('mm').meta({ step: 0.5 }),
    towards: Joi.string()
      .valid('normal', 'side')
      .default('normal')
      .label('To')
      .meta({ labels: { normal: 'Out of the surface', side: 'One side in the surface' } }),
    roundness: Joi.number().min(0).max(100).default(100).label('Roundness').unit('%').meta({ step: 5 }),
    keeps: Joi.string()
      .valid('ends', 'picks')
      .default('ends')
      .label('Stay')
      .meta({ labels: { ends: 'Ends and corners', picks: 'Picked vertices as well' } }),
    smooth: Joi.boolean()
      .default(true)
      .label('Curve through them')
      .meta({ when: { field: 'keeps', is: 'picks' } }),
    corners: Joi.number().min(10).max(180).default(60).label('Corners turn by more than').unit('°').meta({ step: 5, more: true }),
    spacing: Joi.string()
      .valid('even', 'kept')
      .default('even')
      .label('Spacing')
      .meta({ labels: { even: 'Even', kept: 'As it is' } }),
    keepSurface: keepSurfaceField().meta({ more: true })
  }),
  check,
  run
};
