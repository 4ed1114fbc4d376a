import * as THREE from 'three';
import type { StandColours } from '$lib/settings/theme.svelte.ts';
import { clayBall, stripedBall } from '../clay.ts';

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

/** How far the eye is from what it looks at, mm; the stand that draws sets it. */
export const viewDepth = { value: 1 };
/** Wires fade between these shares of that distance, down to a share of their strength. */
const [FADES_FROM, FADES_TO, FADED] = [0.8, 1.6, 0.3];

/** One-pixel lines, lighter with distance. */
export const thinLines = (colour: string, opacity: number): THREE.LineBasicMaterial =>
  sharedMaterial(['thin', colour, opacity], () => {
    const material = new THREE.LineBasicMaterial({ color: colour, transparent: true, opacity });
    material.onBeforeCompile = (shader) => {
      shader.uniforms.viewDepth = viewDepth;
      shader.vertexShader = `uniform float viewDepth;\nvarying float strength;\n${shader.vertexShader.replace(
        '#include <project_vertex>',
        `#include <project_vertex>
         strength = mix(1.0, ${FADED.toFixed(2)}, smoothstep(${FADES_FROM.toFixed(2)}, ${FADES_TO.toFixed(2)}, -mvPosition.z / viewDepth));`
      )}`;
      shader.fragmentShader = `varying float strength;\n${shader.fragmentShader.replace(
        '#include <opaque_fragment>',
        'diffuseColor.a *= strength;\n#include <opaque_fragment>'
      )}`;
    };
    return material;
  });

/** How a surface of clay is drawn. */
export interface ClaySettings {
  flatShading?: boolean;
  /** below 1 it hides nothing */
  opacity?: number;
  /** it has no open border: where a section cuts it open its inside is filled */
  closed?: boolean;
  /** steps that it is put back by, so that what lies on it is seen */
  back?: number;
  /** mm that it is put back by besides, away from the eye: what lies so far inside is seen too */
  deep?: number;
}

/** What cages, smooth surfaces and references are made of. */
export const clayMaterial = (
  colours: StandColours,
  { flatShading = false, opacity = 1, closed = false, back = 1, deep = 0 }: ClaySettings = {}
): THREE.MeshMatcapMaterial =>
  sharedMaterial(['clay', colours.clay, colours.back, flatShading, opacity, closed, back, deep], () => {
    const material = new THREE.MeshMatcapMaterial({
      matcap: clayBall(colours.clay),
      flatShading,
      side: THREE.DoubleSide,
      transparent: opacity < 1,
      opacity,
      depthWrite: opacity === 1,
      polygonOffset: true,
      // steep faces would be put back beyond others
      polygonOffsetFactor: Math.min(back, 2),
      polygonOffsetUnits: back
    });
    markInsides(material, colours, closed && opacity === 1, deep);
    return material;
  });

const inGlsl = (colour: string) => {
  const { r, g, b } = new THREE.Color(colour);
  return `vec3(${[r, g, b].map((c) => c.toFixed(4)).join(', ')})`;
};

/**
 * Back faces get grey hatching, so that turned faces and open insides are seen. Of something solid that a section cuts open the back faces
 * are what is seen through the cut: they are drawn as the cut itself, in its plane, hatched as on a drawing.
 * @param deep mm that all of it is put back by, where nothing else changes
 */
function markInsides(material: THREE.Material, { back, wire, top }: StandColours, solid: boolean, deep: number): void {
  const hatched = `gl_FragColor.rgb = mix(${inGlsl(back)}, gl_FragColor.rgb, mod(gl_FragCoord.x - gl_FragCoord.y, 8.0) > 3.0 ? 0.55 : 0.0);`;
  const cut = `
    #if NUM_CLIPPING_PLANES > 0
      gl_FragDepth = gl_FragCoord.z + fwidth(gl_FragCoord.z);
      if (!gl_FrontFacing) {
        vec3 seen = -vClipPosition;
        vec3 along = isOrthographic ? vec3(0.0, 0.0, -1.0) : normalize(seen);
        vec3 from = isOrthographic ? vec3(seen.xy, 0.0) : vec3(0.0);
        vec4 plane = clippingPlanes[0];
        vec3 place = from - along * (plane.w + dot(plane.xyz, from)) / dot(plane.xyz, along);
        if (dot(seen - place, along) > 0.0) {
          vec4 clip = projectionMatrix * vec4(place, 1.0);
          gl_FragDepth = 0.5 + 0.5 * clip.z / clip.w;
          gl_FragColor.rgb = mod(gl_FragCoord.x + gl_FragCoord.y, 7.0) < 1.5 ? mix(${inGlsl(wire)}, ${inGlsl(top)}, 0.3) : ${inGlsl(top)};
        } else { ${hatched} }
      }
    #else
      if (!gl_FrontFacing) { ${hatched} }
    #endif`;
  material.onBeforeCompile = (shader) => {
    if (deep > 0)
      shader.vertexShader = shader.vertexShader.replace(
        '#include <project_vertex>',
        `#include <project_vertex>
         vec4 putBack = projectionMatrix * vec4(mvPosition.xy, mvPosition.z - ${deep.toFixed(4)}, 1.0);
         gl_Position.z = putBack.z / putBack.w * gl_Position.w;`
      );
    shader.fragmentShader = shader.fragmentShader.replace(
      '#include <opaque_fragment>',
      `#include <opaque_fragment>\n${solid ? cut : `if (!gl_FrontFacing) { ${hatched} }`}`
    );
    if (solid) shader.fragmentShader = `uniform mat4 projectionMatrix;\n${shader.fragmentShader}`;
  };
  // colours are written into the program
  material.customProgramCacheKey = () => [solid, back, wire, top, deep].join();
}

/** Clay coloured by the attribute `color`, between the surface it lies on and the wires over that. */
export const paintedMaterial = (flatShading: boolean): THREE.MeshMatcapMaterial =>
  sharedMaterial(
    ['painted', flatShading],
    () =>
      new THREE.MeshMatcapMaterial({
        matcap: clayBall('#ffffff'),
        vertexColors: true,
        flatShading,
        side: THREE.DoubleSide,
        polygonOffset: true,
        polygonOffsetFactor: 0.5,
        polygonOffsetUnits: 0.5
      })
  );

/** A surface that mirrors line lights, over the eye or where they stay, between the surface it lies on and the wires over that. */
export const lineLights = (flatShading: boolean, light: 'turning' | 'staying'): THREE.MeshMatcapMaterial =>
  sharedMaterial(['line-lights', flatShading, light], () => {
    const material = new THREE.MeshMatcapMaterial({
      matcap: stripedBall(),
      flatShading,
      side: THREE.DoubleSide,
      polygonOffset: true,
      polygonOffsetFactor: 0.5,
      polygonOffsetUnits: 0.5
    });
    if (light === 'turning') return material;
    material.onBeforeCompile = (shader) => {
      shader.fragmentShader = shader.fragmentShader.replace(
        /vec2 uv = vec2\([^;]*;/,
        'vec2 uv = normalize((vec4(normal, 0.0) * viewMatrix).xyz).xy * 0.495 + 0.5;'
      );
    };
    material.customProgramCacheKey = () => light;
    return material;
  });

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
