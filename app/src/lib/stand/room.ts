import * as THREE from 'three';
import type { StandColours } from '$lib/settings/theme.svelte.ts';

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
