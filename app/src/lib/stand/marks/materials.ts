import * as THREE from 'three';
import type { StandColours } from '$lib/settings/theme.svelte.ts';

/** Materials by what they look like: made once, and never freed with what they are on, so that their programs are linked once. */
const materials = new Map<string, THREE.Material>();

/** A material that everything of the same look shares. @param look tells looks apart */
export function sharedMaterial<Kind extends THREE.Material>(look: readonly (string | number | boolean)[], make: () => Kind): Kind {
  const key = look.join(' ');
  const present = materials.get(key) as Kind | undefined;
  if (present) return present;
  const made = make();
  made.userData.shared = true;
  materials.set(key, made);
  return made;
}

/** One-pixel lines. */
export const thinLines = (colour: string, opacity: number): THREE.LineBasicMaterial =>
  sharedMaterial(['thin', colour, opacity], () => new THREE.LineBasicMaterial({ color: colour, transparent: true, opacity }));

/** What cages and smooth surfaces are made of. @param opacity below 1 it hides nothing */
export const clayMaterial = (colours: StandColours, flatShading: boolean, opacity: number): THREE.MeshLambertMaterial =>
  sharedMaterial(['clay', colours.clay, colours.back, flatShading, opacity], () => {
    const material = new THREE.MeshLambertMaterial({
      color: colours.clay,
      flatShading,
      side: THREE.DoubleSide,
      transparent: opacity < 1,
      opacity,
      depthWrite: opacity === 1,
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1
    });
    markBackFaces(material, colours.back);
    return material;
  });

/** Back faces get grey hatching, so that turned faces and open insides are seen. */
function markBackFaces(material: THREE.MeshLambertMaterial, colour: string): void {
  const c = new THREE.Color(colour);
  material.onBeforeCompile = (shader) => {
    shader.fragmentShader = shader.fragmentShader.replace(
      '#include <opaque_fragment>',
      `#include <opaque_fragment>
       if (!gl_FrontFacing) gl_FragColor.rgb = mix(vec3(${c.r.toFixed(4)}, ${c.g.toFixed(4)}, ${c.b.toFixed(4)}), gl_FragColor.rgb, mod(gl_FragCoord.x - gl_FragCoord.y, 8.0) > 3.0 ? 0.55 : 0.0);`
    );
  };
}
