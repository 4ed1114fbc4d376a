import * as THREE from 'three';
import { shadedTriangles, Subdivision, triangulate, type Part } from '@ulvrin/core';
import { sharedMaterial, outlineMaterial } from './materials.ts';

/** Level that the outline of a smooth surface is drawn at. */
const LEVEL = 2;

/** Marks the pixels of a shape, and draws nothing. */
const inside = (): THREE.Material =>
  sharedMaterial(
    ['outline-inside'],
    () =>
      new THREE.MeshBasicMaterial({
        side: THREE.DoubleSide,
        colorWrite: false,
        depthWrite: false,
        depthTest: false,
        stencilWrite: true,
        stencilRef: 1,
        stencilZPass: THREE.ReplaceStencilOp
      })
  );

/** A silhouette over everything, but where the shape itself is. */
const rim = (colour: string): THREE.Material =>
  sharedMaterial(['outline-rim', colour], () => {
    const material = outlineMaterial(colour).clone();
    material.onBeforeCompile = outlineMaterial(colour).onBeforeCompile;
    return Object.assign(material, {
      side: THREE.DoubleSide,
      transparent: true,
      depthWrite: false,
      depthTest: false,
      stencilWrite: true,
      stencilRef: 1,
      stencilFunc: THREE.NotEqualStencilFunc
    });
  });

/** The outline of a part as it is seen, over whatever else is on the stand. */
export function outlineOf({ cage, mesh, scheme, borderCorners, plan }: Part, smooth: boolean, colour: string): THREE.Group {
  const poly = cage ? cage.toPolygons() : mesh!;
  const levels = smooth && cage ? Math.max(LEVEL, plan?.steps.length ?? 0) : 0;
  const settings = { scheme: scheme!, borderCorners: borderCorners!, plan };
  const shown = levels > 0 ? new Subdivision(poly, { ...settings, levels }).toPolygons(poly) : poly;
  const { positions, normals, triangles } = shadedTriangles(shown.positions, triangulate(shown).triangles);
  const geometry = new THREE.BufferGeometry();
  geometry.setIndex(new THREE.BufferAttribute(triangles, 1));
  geometry.setAttribute('position', new THREE.BufferAttribute(positions, 3));
  geometry.setAttribute('normal', new THREE.BufferAttribute(normals, 3));
  const group = new THREE.Group();
  [inside(), rim(colour)].forEach((material, i) => {
    const drawn = new THREE.Mesh(geometry, material);
    drawn.renderOrder = 8 + i;
    group.add(drawn);
  });
  return group;
}
