import * as THREE from 'three';
import type { StandColours } from '$lib/settings/theme.svelte.ts';
import { clayBall } from '../clay.ts';

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
export const clayMaterial = (colours: StandColours, flatShading: boolean, opacity: number): THREE.MeshMatcapMaterial =>
  sharedMaterial(['clay', colours.clay, colours.back, flatShading, opacity], () => {
    const material = new THREE.MeshMatcapMaterial({
      matcap: clayBall(colours.clay),
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
function markBackFaces(material: THREE.Material, colour: string): void {
  const c = new THREE.Color(colour);
  material.onBeforeCompile = (shader) => {
    shader.fragmentShader = shader.fragmentShader.replace(
      '#include <opaque_fragment>',
      `#include <opaque_fragment>
       if (!gl_FrontFacing) gl_FragColor.rgb = mix(vec3(${c.r.toFixed(4)}, ${c.g.toFixed(4)}, ${c.b.toFixed(4)}), gl_FragColor.rgb, mod(gl_FragCoord.x - gl_FragCoord.y, 8.0) > 3.0 ? 0.55 : 0.0);`
    );
  };
}

/** Clay coloured by the attribute `color`, a hair before the surface it lies on. */
export const paintedMaterial = (): THREE.MeshMatcapMaterial =>
  sharedMaterial(
    ['painted'],
    () =>
      new THREE.MeshMatcapMaterial({
        matcap: clayBall('#ffffff'),
        vertexColors: true,
        side: THREE.DoubleSide,
        polygonOffset: true,
        polygonOffsetFactor: 0,
        polygonOffsetUnits: -1
      })
  );

/** Pixels of the view, for what is as wide on the screen wherever it is; the stand that draws sets it. */
export const viewSize = new THREE.Vector2(1, 1);
/** Pixels that silhouettes are wide. */
const OUTLINE = 1.4;

/** Silhouettes: the far side of a surface, a little larger. Its geometry needs normals. */
export const outlineMaterial = (colour: string): THREE.MeshBasicMaterial =>
  sharedMaterial(['outline', colour], () => {
    const material = new THREE.MeshBasicMaterial({ color: colour, side: THREE.BackSide });
    material.onBeforeCompile = (shader) => {
      shader.uniforms.viewSize = { value: viewSize };
      shader.vertexShader = `uniform vec2 viewSize;\n${shader.vertexShader.replace(
        '#include <project_vertex>',
        `#include <project_vertex>
         vec2 outwards = (projectionMatrix * vec4(normalMatrix * normal, 0.0)).xy * viewSize;
         gl_Position.xy += ${(2 * OUTLINE).toFixed(1)} * outwards / max(length(outwards), 1e-6) / viewSize * gl_Position.w;`
      )}`;
    };
    return material;
  });
