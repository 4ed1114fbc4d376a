import { Cage, type Part, type PolygonMesh } from '@ulvrin/core';
import * as THREE from 'three';
import { CageDrawing, type DrawingSettings } from '$lib/stand/cage-drawing.ts';
import { onScreen, type Eye } from '$lib/stand/eye.ts';
import { standColours } from '$lib/settings/theme.svelte.ts';

/** What is shown unless a test says otherwise. */
export const SETTINGS: DrawingSettings = {
  cage: true,
  smooth: false,
  level: 2,
  cageOpacity: 1,
  xray: false,
  overlays: { triangles: false, ngons: false, poles: false, borders: false, creases: false, density: false }
};

/** A mesh as a part, drawn as the stand draws it. */
export function drawn(
  mesh: PolygonMesh,
  { isolated, part, ...settings }: Partial<DrawingSettings> & { isolated?: Set<number>; part?: Partial<Part> } = {}
) {
  const cage = Cage.fromPolygons(mesh);
  const whole: Part = { id: 'p1', name: 'Lamp housing', kind: 'cage', scheme: 'catmull-clark', borderCorners: 'sharp', cage, ...part };
  return new CageDrawing(whole, cage, { ...SETTINGS, ...settings }, standColours.light, isolated);
}

/** An eye at a place, that looks at the origin through 800 by 600 pixels. */
export function eyeAt(place: readonly [number, number, number], section?: THREE.Plane): Eye {
  const camera = new THREE.PerspectiveCamera(40, 800 / 600, 0.1, 1000);
  camera.position.set(...place);
  camera.lookAt(0, 0, 0);
  camera.updateMatrixWorld();
  return { host: { clientWidth: 800, clientHeight: 600 } as HTMLElement, camera, section };
}

/** The pixel at which a vertex is seen. */
export const pixelOf = (eye: Eye, cage: Cage, v: number): [number, number] => onScreen(eye, cage.position(v));
