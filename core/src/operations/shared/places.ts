import Joi from 'joi';
import { type Cage } from '../../mesh/cage.ts';
import { NONE } from '../../mesh/half-edges.ts';
import { between, type Triple } from '../../numeric/vectors.ts';
import { emptySelection, selectEdges, selectFaces, selectVertices, type Selection } from '../../select/selection.ts';

/**
 * A place pointed at on the stand: a vertex; a point on an edge at a fraction from the start of half-edge 2e; a point inside
 * a face; or one in space.
 */
export type PointedPlace = { vertex: number } | { edge: number; fraction: number } | { face: number; at: Triple } | { at: Triple };

export const isVertex = (p: PointedPlace): p is { vertex: number } => 'vertex' in p;
export const isOnEdge = (p: PointedPlace): p is { edge: number; fraction: number } => 'edge' in p;
export const isInFace = (p: PointedPlace): p is { face: number; at: Triple } => 'face' in p;

/** Where a place lies. */
export function positionOf(cage: Cage, p: PointedPlace): Triple {
  if (isVertex(p)) return cage.position(p.vertex);
  if (isOnEdge(p)) return between(cage.position(cage.origin[2 * p.edge]), cage.position(cage.origin[2 * p.edge + 1]), p.fraction);
  return p.at;
}

/** Whether the element a place lies on is still there. */
export const placeExists = (cage: Cage, p: PointedPlace): boolean =>
  isVertex(p) ? cage.hasVertex(p.vertex) : isOnEdge(p) ? cage.hasEdge(p.edge) : !isInFace(p) || cage.hasFace(p.face);

/** The element a place lies on. */
export const elementAt = (p: PointedPlace): Selection =>
  isVertex(p) ? selectVertices([p.vertex]) : isOnEdge(p) ? selectEdges([p.edge]) : isInFace(p) ? selectFaces([p.face]) : emptySelection();

/** Faces a place touches. */
export function facesAt(cage: Cage, p: PointedPlace): number[] {
  if (isInFace(p)) return [p.face];
  const halves = isVertex(p) ? cage.spokes(p.vertex) : isOnEdge(p) ? [2 * p.edge, 2 * p.edge + 1] : [];
  return halves.map((h) => cage.face[h]).filter((f) => f !== NONE);
}

const id = Joi.number().integer().min(0).required();
const triple = Joi.array().items(Joi.number()).length(3).required();

/** Schema of a list of places; on the cage only, unless places in space are meant as well. */
export const pointedPlaces = (inSpace: boolean): Joi.ArraySchema =>
  Joi.array()
    .items(
      Joi.object({ vertex: id }),
      Joi.object({ edge: id, fraction: Joi.number().min(0).max(1).required() }),
      Joi.object({ face: id, at: triple }),
      ...(inSpace ? [Joi.object({ at: triple })] : [])
    )
    .default([]);
