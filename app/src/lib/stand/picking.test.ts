import { Cage, NONE, polygonMesh, Subdivision, type Selection, box, plane, torus } from '@ulvrin/core';
import fc from 'fast-check';
import * as THREE from 'three';
import { describe, expect, it } from 'vitest';
import { drawn, eyeAt, pixelOf } from '../../../testing/drawn.ts';
import { onScreen, rayAt, type Eye } from './eye.ts';
import { IdBuffer } from './id-buffer.ts';
import { disc, lasso, pickAt, pickIn, placeAt, rectangle, restingPlaceAt } from './picking.ts';

const cube = drawn(box({ x: 4, y: 4, z: 4 }, { x: 2, y: 2, z: 2 }));
const { cage } = cube;
const front = eyeAt([0, 0, 20]);

const vertexAt = (x: number, y: number, z: number, of = cage): number =>
  [...of.vertices()].find((v) => of.position(v).every((c, k) => Math.abs(c - [x, y, z][k]) < 1e-9))!;
const edgeBetween = (a: number, b: number): number => cage.findHalfEdge(a, b) >> 1;
const counts = ({ vertices, edges, faces }: Selection) => [vertices.length, edges.length, faces.length];
const middleOf = (eye: Eye, f: number) => {
  const corners = cage.faceVertices(f).map((v) => cage.position(v));
  return onScreen(eye, [0, 1, 2].map((k) => corners.reduce((sum, p) => sum + p[k] / corners.length, 0)) as [number, number, number]);
};
const all = rectangle(0, 0, 800, 600);
/** Whether the pixels round one show the same face: rounding cannot tell there. */
const isFarFromOthers = (seen: IdBuffer, x: number, y: number) =>
  [-1, 0, 1].every((i) => [-1, 0, 1].every((j) => seen.faceAt(x + i, y + j) === seen.faceAt(x, y)));

describe('picking on the stand', () => {
  const corner = vertexAt(2, 2, 2);
  const [centre, above] = [vertexAt(0, 0, 2), vertexAt(0, 2, 2)];

  it('takes a vertex within reach, else an edge, else the face', () => {
    const [x, y] = pixelOf(front, cage, corner);
    expect(pickAt(front, cube, x - 5, y + 6, 'nearest')?.vertices).toEqual([corner]);
    const [a, b] = [pixelOf(front, cage, centre), pixelOf(front, cage, above)];
    expect(pickAt(front, cube, a[0] + 5, (a[1] + b[1]) / 2, 'nearest')?.edges).toEqual([edgeBetween(centre, above)]);
    const face = [...cage.faces()].find((f) => cage.faceVertices(f).includes(corner) && cage.faceVertices(f).includes(centre))!;
    const [u, v] = middleOf(front, face);
    expect(pickAt(front, cube, u, v, 'nearest')).toMatchObject({ vertices: [], edges: [], faces: [face] });
  });

  it('reaches less far where elements are seen small: each middle still picks its own', () => {
    const fine = drawn(plane(20, 20, 20, 20));
    const above = eyeAt([0, 45, 0.01]);
    const at = (px: number, pz: number) => pixelOf(above, fine.cage, vertexAt(px, 0, pz, fine.cage));
    const [o, x, z] = [at(0, 0), at(1, 0), at(0, 1)];
    const wide = x[0] - o[0];
    expect(wide).toBeGreaterThan(10);
    expect(wide).toBeLessThan(20);
    const across = (f: number, g: number) => counts(pickAt(above, fine, o[0] + f * wide, o[1] + g * (z[1] - o[1]), 'nearest')!);
    expect(across(0, 0)).toEqual([1, 0, 0]);
    expect(across(0.2, 0)).toEqual([1, 0, 0]);
    expect(across(0.5, 0)).toEqual([0, 1, 0]);
    expect(across(0.5, 0.2)).toEqual([0, 1, 0]);
    expect(across(0.5, 0.5)).toEqual([0, 0, 1]);
  });

  it('takes what was asked for, from farther away than when anything is meant, and nothing beside the cage', () => {
    const [a, b] = [pixelOf(front, cage, centre), pixelOf(front, cage, above)];
    const [x, y] = [a[0] + 8, a[1] + 0.3 * (b[1] - a[1])];
    expect(pickAt(front, cube, x, y, 'vertex')?.vertices).toEqual([centre]);
    expect(pickAt(front, cube, x, y, 'edge')?.edges).toEqual([edgeBetween(centre, above)]);
    expect(counts(pickAt(front, cube, x, y, 'face')!)).toEqual([0, 0, 1]);
    for (const kind of ['nearest', 'vertex', 'edge', 'face'] as const) expect(pickAt(front, cube, 20, 20, kind)).toBeUndefined();
  });

  it('takes the nearer of two vertices that are seen in one place', () => {
    const small = drawn(plane(2, 2, 1, 1));
    const slanted = eyeAt([0, 30, 0.01]);
    for (const v of small.cage.vertices()) {
      const [x, y] = pixelOf(slanted, small.cage, v);
      expect(pickAt(slanted, small, x, y, 'vertex')?.vertices).toEqual([v]);
    }
    // straight on, the front corner hides the one behind it
    const far = eyeAt([0, 0, 4000]);
    const [x, y] = pixelOf(far, cage, corner);
    expect(pickAt(far, cube, x, y, 'vertex')?.vertices).toEqual([corner]);
  });

  it('sees a vertex at a rim from beside it, where the ray misses every face', () => {
    const [x, y] = pixelOf(front, cage, corner);
    expect(cube.faceUnder(rayAt(front, x + 3, y - 3))).toBeUndefined();
    expect(pickAt(front, cube, x + 3, y - 3, 'nearest')?.vertices).toEqual([corner]);
  });

  it('goes through what a section cuts away', () => {
    const cut = eyeAt([0, 0, 20], new THREE.Plane(new THREE.Vector3(0, 0, -1), 0));
    const picked = pickAt(cut, cube, ...middleOf(front, pickAt(front, cube, 330, 230, 'face')!.faces[0]), 'face')!;
    expect(cage.faceVertices(picked.faces[0]).every((v) => cage.position(v)[2] === -2)).toBe(true);
  });

  it('leaves hidden faces out where others are isolated', () => {
    const [only] = pickAt(front, cube, 330, 230, 'face')!.faces;
    const alone = drawn(box({ x: 4, y: 4, z: 4 }, { x: 2, y: 2, z: 2 }), { isolated: new Set([only]) });
    expect(pickAt(front, alone, 330, 230, 'face')?.faces).toEqual([only]);
    expect(pickAt(front, alone, 470, 370, 'face')).toBeUndefined();
  });
});

describe('picking in an area', () => {
  it('takes what is seen, and with `through` what is hidden behind it too', () => {
    expect(pickIn(front, cube, all, 'face', {}).faces).toHaveLength(4);
    expect(pickIn(front, cube, all, 'face', { through: true }).faces).toHaveLength(24);
    expect(pickIn(front, cube, all, 'vertex', {}).vertices.every((v) => cage.position(v)[2] === 2)).toBe(true);
    expect(pickIn(front, cube, all, 'edge', {}).edges).toHaveLength(12);
    expect(pickIn(front, cube, all, 'edge', { through: true }).edges).toHaveLength(cage.edgeCount);
  });

  it('leaves out sides that are seen edge-on, and takes all faces of the sides that are seen, flat or in perspective', () => {
    const four = drawn(box({ x: 4, y: 4, z: 4 }, { x: 4, y: 4, z: 4 }));
    const flat = new THREE.OrthographicCamera(-4, 4, 3, -3, -100, 100);
    flat.position.set(0, 0, 20);
    flat.updateMatrixWorld();
    expect(pickIn({ ...front, camera: flat }, four, all, 'face', {}).faces).toHaveLength(16);
    expect(pickIn(front, four, all, 'face', {}).faces).toHaveLength(16);
    const three = eyeAt([14, 11, 16]);
    expect(counts(pickIn(three, four, all, 'face', {}))).toEqual([0, 0, 48]);
    expect(pickIn(three, four, all, 'vertex', {}).vertices).toHaveLength(3 * 25 - 3 * 5 + 1);
    const ring = lasso(Array.from({ length: 24 }, (_, i) => [400 + 290 * Math.cos((i * Math.PI) / 12), 300 + 290 * Math.sin((i * Math.PI) / 12)]));
    expect(pickIn(three, four, ring, 'face', {}).faces).toHaveLength(48);
  });

  it('takes what rays meet first, from anywhere: random views of a part with limbs and holes', () => {
    const mesh = new Subdivision(torus(4, 1.4, 10, 7), { levels: 1 }).toPolygons(torus(4, 1.4, 10, 7));
    const ring = drawn(mesh);
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        fc.double({ min: -1.4, max: 1.4, noNaN: true }),
        fc.double({ min: 9, max: 40, noNaN: true }),
        (around, up, away) => {
          const eye = eyeAt([away * Math.cos(up) * Math.sin(around), away * Math.sin(up), away * Math.cos(up) * Math.cos(around)]);
          const picked = new Set(pickIn(eye, ring, all, 'face', {}).faces);
          const met = new Set<number>();
          for (let x = 2.5; x < 800; x += 5)
            for (let y = 2.5; y < 600; y += 5) {
              const hit = ring.faceUnder(rayAt(eye, x, y));
              if (hit) met.add(hit.face);
            }
          const whole = (f: number) => ring.cage.faceVertices(f).every((v) => all(...onScreen(eye, ring.cage.position(v))));
          // what a ray of the grid meets is seen; what is picked is met by a ray through one of its own pixels
          for (const f of met) if (whole(f) && !picked.has(f)) throw new Error(`face ${f} is met by a ray, and not picked`);
          const seen = new IdBuffer(eye, [ring.pickSurface]);
          for (let x = 0.5; x < 800; x++)
            for (let y = 0.5; y < 600; y++) {
              const f = seen.faceAt(x, y);
              if (f !== undefined && picked.delete(f) && ring.faceUnder(rayAt(eye, x, y))?.face !== f && isFarFromOthers(seen, x, y))
                throw new Error(`face ${f} is picked, and hidden at its own pixel ${x}, ${y}`);
            }
          if (picked.size > 0) throw new Error(`${picked.size} faces are picked that no pixel shows`);
        }
      ),
      { numRuns: 12 }
    );
  });

  it('asks for all points of an element, a brush for its middle alone', () => {
    const [x, y] = middleOf(front, pickIn(front, cube, rectangle(0, 0, 405, 305), 'face', {}).faces[0]);
    expect(pickIn(front, cube, disc(x, y, 10), 'face', {}).faces).toHaveLength(0);
    expect(pickIn(front, cube, disc(x, y, 10), 'face', { touched: true }).faces).toHaveLength(1);
    expect(pickIn(front, cube, disc(x, y, 10), 'edge', { touched: true }).edges).toHaveLength(0);
  });

  it('follows a drawn line: inside counts where it is crossed an odd number of times', () => {
    const ring = lasso([
      [0, 0],
      [10, 0],
      [10, 10],
      [0, 10]
    ]);
    expect([ring(5, 5), ring(15, 5), ring(-1, 5), ring(5, 11)]).toEqual([true, false, false, false]);
    const hook = lasso([
      [0, 0],
      [10, 0],
      [10, 10],
      [6, 10],
      [6, 3],
      [4, 3],
      [4, 10],
      [0, 10]
    ]);
    expect([hook(2, 8), hook(5, 8), hook(8, 8), hook(5, 1)]).toEqual([true, false, true, true]);
    const left = pickIn(
      front,
      cube,
      lasso([
        [0, 0],
        [405, 0],
        [405, 600],
        [0, 600]
      ]),
      'face',
      {}
    );
    expect(left.faces.every((f) => cage.faceVertices(f).every((v) => cage.position(v)[0] <= 0))).toBe(true);
    expect(left.faces).toHaveLength(2);
  });
});

describe('a pointed place', () => {
  const [a, b] = [vertexAt(0, 0, 2), vertexAt(0, 2, 2)];
  const along = (share: number): [number, number] => {
    const [p, q] = [pixelOf(front, cage, a), pixelOf(front, cage, b)];
    return [p[0] + share * (q[0] - p[0]), p[1] + share * (q[1] - p[1])];
  };

  it('is drawn to the middle and the thirds of an edge, and to its ends', () => {
    const fraction = (share: number) => {
      const place = placeAt(front, cube, ...along(share))!;
      if (!('edge' in place)) return place;
      return cage.origin[2 * place.edge] === a ? place.fraction : 1 - place.fraction;
    };
    expect(fraction(0.35)).toBeCloseTo(1 / 3, 9);
    expect(fraction(0.48)).toBeCloseTo(0.5, 9);
    expect(fraction(0.64)).toBeCloseTo(2 / 3, 9);
    expect(fraction(0.42)).toBeCloseTo(0.42, 2);
    expect([fraction(0.02), fraction(0.99)]).toEqual([{ vertex: a }, { vertex: b }]);
  });

  it('lies in a face where no edge is near, exactly under the pointer', () => {
    const place = placeAt(front, cube, 350, 250)!;
    if (!('face' in place)) throw new Error('an edge was found');
    expect(place.at[2]).toBeCloseTo(2, 9);
    const [x, y] = onScreen(front, place.at);
    expect([x, y].map(Math.round)).toEqual([350, 250]);
    expect(placeAt(front, cube, 20, 20)).toBeUndefined();
  });

  it('for what is dragged is none of its own: a vertex or edge that stays', () => {
    const [x, y] = pixelOf(front, cage, a);
    expect(restingPlaceAt(front, cage, x, y, new Set(), false)).toEqual({ vertex: a });
    // behind it lies its like on the far side
    const behind = vertexAt(0, 0, -2);
    expect(restingPlaceAt(front, cage, x, y, new Set([a]), false)).toEqual({ vertex: behind });
    expect(restingPlaceAt(front, cage, x, y, new Set([a, behind]), false)).toBeUndefined();
    const [u, v] = along(0.5);
    expect(restingPlaceAt(front, cage, u, v, new Set(), false)).toBeUndefined();
    expect(restingPlaceAt(front, cage, u, v, new Set(), true)).toEqual({ edge: edgeBetween(a, b), fraction: 0.5 });
    const place = restingPlaceAt(front, cage, u, v, new Set([a]), true);
    expect(place && 'edge' in place && place.edge).not.toBe(edgeBetween(a, b));
  });

  it('is found on a cage of a single vertex, which has no faces', () => {
    const lone = Cage.fromPolygons(polygonMesh([[0, 0, 0]], []));
    expect(restingPlaceAt(front, lone, 402, 299, new Set(), true)).toEqual({ vertex: 0 });
    expect(lone.vertexEdge[0]).toBe(NONE);
  });
});
