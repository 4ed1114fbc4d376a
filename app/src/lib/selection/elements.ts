import { emptySelection, faceArea, millimetres, type Cage, type Selection } from '@ulvrin/core';

export type ElementKind = 'vertices' | 'edges' | 'faces';

/** What one element is: "edge, 4.25 mm, sharpness 2". */
export function describeElement(cage: Cage, kind: ElementKind, id: number): string {
  if (kind === 'vertices') return `vertex, valence ${cage.valence(id)}`;
  if (kind === 'faces') return `face of ${cage.faceSize(id)} corners`;
  const sharp = cage.value('crease', id);
  return `edge, ${millimetres(cage.edgeLength(id))} mm${sharp > 0 ? `, sharpness ${sharp}` : ''}`;
}

/** The same with where it is, for a list that is walked without seeing the stand. */
export function placeElement(cage: Cage, kind: ElementKind, id: number): string {
  const at = (v: number) =>
    cage
      .position(v)
      .map((c) => Number(c.toFixed(2)))
      .join(', ');
  const what = `${describeElement(cage, kind, id)}`;
  if (kind === 'vertices') return `${what}, at ${at(id)}`;
  if (kind === 'edges') return `${what}, from ${at(cage.origin[2 * id])} to ${at(cage.origin[2 * id + 1])}`;
  return `${what}, ${millimetres(faceArea(cage, id))} mm², first corner at ${at(cage.faceVertices(id)[0])}`;
}

/** One element of a selection. */
export interface Picked {
  kind: ElementKind;
  id: number;
}

/** Elements of a selection one by one: vertices, then edges, then faces. */
export const elementsOf = ({ vertices, edges, faces }: Selection): Picked[] => [
  ...vertices.map((id): Picked => ({ kind: 'vertices', id })),
  ...edges.map((id): Picked => ({ kind: 'edges', id })),
  ...faces.map((id): Picked => ({ kind: 'faces', id }))
];

/** A selection of one element alone. */
export const alone = ({ kind, id }: Picked): Selection => ({ ...emptySelection(), [kind]: [id] });
