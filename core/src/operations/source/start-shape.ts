import Joi from 'joi';
import { polygonMesh, type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { box, cylinder, plane, quadSphere, singleVertex, torus } from '../../shapes/start-shapes.ts';
import { LONG, type Params, type ShapeOperation } from '../operation.ts';
import { refuseTooMany } from '../refusal.ts';

/** From 200,000 faces on it runs in the background. */
const SECONDS_A_FACE = LONG / 200_000;

const millimetres = (label: string, initial: number, shapes: string) =>
  Joi.number()
    .greater(0)
    .max(1e6)
    .default(initial)
    .label(label)
    .unit('mm')
    .meta({ step: 1, when: { field: 'shape', is: shapes } });
const segments = (label: string, least: number, initial: number, shapes: string) =>
  Joi.number()
    .integer()
    .min(least)
    .max(500)
    .default(initial)
    .label(label)
    .meta({ step: 1, when: { field: 'shape', is: shapes } });

/** Faces a start shape would have. */
function facesOf({ shape, across, up, deep, sides, tubeSides, caps }: Record<string, number> & { shape: string; caps: boolean }): number {
  switch (shape) {
    case 'plane':
      return across * deep;
    case 'cylinder':
      return sides * up + (caps ? 2 : 0);
    case 'sphere':
      return 6 * across ** 2;
    case 'torus':
      return sides * tubeSides;
    case 'vertex':
    case 'empty':
      return 0;
    default:
      return 2 * (across * up + up * deep + across * deep);
  }
}

/** A box, plane, cylinder, sphere of quads, torus or single vertex; counts stay editable in its entry. */
export const startShape: ShapeOperation = {
  kind: 'shape',
  id: 'start-shape',
  bench: 1,
  name: 'Start shape',
  purpose: 'Begin a cage with a box, plane, cylinder, sphere of quads, torus or single vertex.',
  icon: 'Cube',
  key: 'X',
  needs: 'Nothing: it adds a new part.',
  seconds: (_cage, _selection, params) => SECONDS_A_FACE * facesOf(params as never),
  params: Joi.object({
    shape: Joi.string()
      .valid('box', 'plane', 'cylinder', 'sphere', 'torus', 'vertex', 'empty')
      .default('box')
      .label('Shape')
      .meta({
        labels: {
          box: 'Box',
          plane: 'Plane',
          cylinder: 'Cylinder',
          sphere: 'Sphere of quads',
          torus: 'Torus',
          vertex: 'Single vertex',
          empty: 'Empty cage'
        },
        unlisted: ['empty']
      }),
    width: millimetres('Width', 40, 'box|plane'),
    height: millimetres('Height', 40, 'box|cylinder'),
    depth: millimetres('Depth', 40, 'box|plane'),
    radius: millimetres('Radius', 20, 'cylinder|sphere|torus'),
    tube: millimetres('Tube radius', 7, 'torus'),
    across: segments('Faces across', 1, 4, 'box|plane|sphere'),
    up: segments('Faces up', 1, 4, 'box|cylinder'),
    deep: segments('Faces deep', 1, 4, 'box|plane'),
    sides: segments('Sides', 3, 16, 'cylinder|torus'),
    tubeSides: segments('Sides of the tube', 3, 8, 'torus'),
    caps: Joi.boolean()
      .default(true)
      .label('Caps')
      .meta({ when: { field: 'shape', is: 'cylinder' } })
  }),
  make: (params: Params): PolygonMesh => {
    const p = params as Record<string, number> & { shape: string; caps: boolean };
    refuseTooMany('This shape', facesOf(p), 'Choose fewer faces along its sides.');
    switch (p.shape) {
      case 'plane':
        return plane(p.width, p.depth, p.across, p.deep);
      case 'cylinder':
        return cylinder(p.radius, p.height, p.sides, p.up, p.caps);
      case 'sphere':
        return quadSphere(p.radius, p.across);
      case 'torus':
        return torus(p.radius, p.tube, p.sides, p.tubeSides);
      case 'vertex':
        return singleVertex();
      case 'empty':
        return polygonMesh([], []);
      default:
        return box({ x: p.width, y: p.height, z: p.depth }, { x: p.across, y: p.up, z: p.deep });
    }
  }
};
