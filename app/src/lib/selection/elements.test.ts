import { Cage, plane } from '@ulvrin/core';
import { describe, expect, it } from 'vitest';
import { alone, describeElement, elementsOf, placeElement } from './elements.ts';

describe('elements one by one', () => {
  const cage = Cage.fromPolygons(plane(10, 20, 1, 2));

  it('say what they are, and where', () => {
    const [face] = cage.faces();
    expect(describeElement(cage, 'faces', face)).toBe('face of 4 corners');
    expect(placeElement(cage, 'faces', face)).toMatch(/^face of 4 corners, 100 mm², first corner at -?5, 0, -?\d+$/);
    const corner = [...cage.vertices()].find((v) => cage.valence(v) === 2)!;
    expect(placeElement(cage, 'vertices', corner)).toMatch(/^vertex, valence 2, at -?5, 0, -?10$/);
    const [edge] = cage.edges();
    cage.setValue('crease', edge, 2);
    expect(describeElement(cage, 'edges', edge)).toMatch(/^edge, 10\.0+ mm, sharpness 2$/);
  });

  it('are those of a selection in order, and each is a selection of its own', () => {
    const elements = elementsOf({ vertices: [4], edges: [1, 2], faces: [0] });
    expect(elements.map(({ kind, id }) => `${kind} ${id}`)).toEqual(['vertices 4', 'edges 1', 'edges 2', 'faces 0']);
    expect(alone(elements[2])).toEqual({ vertices: [], edges: [2], faces: [] });
  });
});
