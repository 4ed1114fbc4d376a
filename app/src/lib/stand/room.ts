import * as THREE from 'three';
import type { StandColours } from '$lib/settings/theme.svelte.ts';

/** What lights the scene, the cameras with it: one light goes with the eye, so that shape reads from every side. */
export function lightsWith(...cameras: THREE.Camera[]): THREE.Object3D[] {
  const key = new THREE.DirectionalLight(0xffffff, 1.55);
  key.position.set(0.5, 0.8, 1);
  for (const camera of cameras) camera.add(key.clone());
  return [new THREE.HemisphereLight(0xffffff, 0x7a7568, 1.25), ...cameras];
}

/** The ground of the stand: it fades from top to bottom. */
export function fadeOf({ top, bottom }: StandColours): THREE.CanvasTexture {
  const canvas = document.createElement('canvas');
  canvas.width = 2;
  canvas.height = 256;
  const c = canvas.getContext('2d')!;
  const fade = c.createLinearGradient(0, 0, 0, 256);
  fade.addColorStop(0, top);
  fade.addColorStop(1, bottom);
  c.fillStyle = fade;
  c.fillRect(0, 0, 2, 256);
  const texture = new THREE.CanvasTexture(canvas);
  texture.colorSpace = THREE.SRGBColorSpace;
  return texture;
}
