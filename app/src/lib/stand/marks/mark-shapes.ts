import * as THREE from 'three';
import { LineSegments2 } from 'three/addons/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/addons/lines/LineSegmentsGeometry.js';
import { LineMaterial } from 'three/addons/lines/LineMaterial.js';
import { sharedMaterial } from './materials.ts';

/** Patterns a face can be filled with; told apart without colour. */
export type Pattern = 'solid' | 'dots' | 'hatch';

/** Settings of what is drawn over faces, a little before them. */
const OVER_FACES = {
  clipping: true,
  transparent: true,
  depthWrite: false,
  side: THREE.DoubleSide,
  polygonOffset: true,
  polygonOffsetFactor: -1,
  polygonOffsetUnits: -2
} as const;

/** A flat fill in screen-space dots or hatching, so that marks read on paper and on clay. */
export const patternMaterial = (colour: string, pattern: Pattern, opacity: number): THREE.ShaderMaterial =>
  sharedMaterial(['pattern', colour, pattern, opacity], () => newPatternMaterial(colour, pattern, opacity));

function newPatternMaterial(colour: string, pattern: Pattern, opacity: number): THREE.ShaderMaterial {
  const kind = { solid: 0, dots: 1, hatch: 2 }[pattern];
  return new THREE.ShaderMaterial({
    uniforms: { colour: { value: new THREE.Color(colour) }, opacity: { value: opacity } },
    defines: { KIND: kind },
    ...OVER_FACES,
    vertexShader: `
      #include <clipping_planes_pars_vertex>
      void main() {
        #include <begin_vertex>
        #include <project_vertex>
        #include <clipping_planes_vertex>
      }`,
    fragmentShader: `
      uniform vec3 colour;
      uniform float opacity;
      #include <clipping_planes_pars_fragment>
      void main() {
        #include <clipping_planes_fragment>
        vec2 p = gl_FragCoord.xy;
        #if KIND == 1
          if (length(mod(p, 6.0) - 3.0) > 1.7) { gl_FragColor = vec4(colour, opacity * 0.35); return; }
        #elif KIND == 2
          if (mod(p.x + p.y, 7.0) > 2.5) { gl_FragColor = vec4(colour, opacity * 0.25); return; }
        #endif
        gl_FragColor = vec4(colour, opacity);
      }`
  });
}

/** Fades out with the attribute `share`, with a contour line at every quarter where that is wished. */
export const falloffMaterial = (colour: string, contours: boolean): THREE.ShaderMaterial =>
  sharedMaterial(['falloff', colour, String(contours)], () => newFalloffMaterial(colour, contours));

function newFalloffMaterial(colour: string, contours: boolean): THREE.ShaderMaterial {
  return new THREE.ShaderMaterial({
    uniforms: { colour: { value: new THREE.Color(colour) }, contours: { value: contours ? 0.85 : 0 } },
    ...OVER_FACES,
    vertexShader: `
      attribute float share;
      varying float vShare;
      #include <clipping_planes_pars_vertex>
      void main() {
        vShare = share;
        #include <begin_vertex>
        #include <project_vertex>
        #include <clipping_planes_vertex>
      }`,
    fragmentShader: `
      uniform vec3 colour;
      uniform float contours;
      varying float vShare;
      #include <clipping_planes_pars_fragment>
      void main() {
        #include <clipping_planes_fragment>
        float level = vShare * 4.0;
        float line = abs(fract(level - 0.5) - 0.5) / max(fwidth(level), 1e-5);
        float contour = vShare > 0.125 && vShare < 0.875 ? 1.0 - smoothstep(0.6, 1.4, line) : 0.0;
        gl_FragColor = vec4(colour, max(0.55 * vShare, contours * contour));
      }`
  });
}

/** How wide lines are drawn, beside colour and width. */
export interface LineSettings {
  dashed?: boolean;
  halo?: string;
  /** length of a dash, mm */
  dash?: number;
}

/**
 * Lines wider than a pixel, with a halo under them if asked; three numbers a point, two points a line. `userData.places` is the buffer
 * that holds the points, in the same order.
 */
export function wideLines(points: Float32Array, colour: string, width: number, settings: LineSettings = {}): THREE.Group {
  const group = new THREE.Group();
  if (points.length === 0) return group;
  const geometry = new LineSegmentsGeometry();
  geometry.setPositions(points);
  group.userData.places = (geometry.getAttribute('instanceStart') as THREE.InterleavedBufferAttribute).data;
  if (settings.halo) {
    // the line itself is drawn over it at the same depth
    const halo = new LineSegments2(geometry, lineMaterial(settings.halo, width + 2, 0, true));
    halo.renderOrder = 1;
    group.add(halo);
  }
  const line = new LineSegments2(geometry, lineMaterial(colour, width, settings.dashed ? (settings.dash ?? 1) : 0));
  if (settings.dashed) line.computeLineDistances();
  line.renderOrder = 2;
  group.add(line);
  return group;
}

/** By how much wide lines come towards the eye, in depth by pixel of their width, so that faces of an inner corner do not cover their sides. */
const LIFT = 2e-5;

/** @param halo drawn without depth of its own, under the line itself */
const lineMaterial = (colour: string, width: number, dash = 0, halo = false): LineMaterial =>
  sharedMaterial(['line', colour, width, dash > 0 ? dash.toPrecision(2) : 0, halo], () => newLineMaterial(colour, width, dash, halo));

function newLineMaterial(colour: string, width: number, dash: number, halo: boolean): LineMaterial {
  const material = new LineMaterial({
    color: new THREE.Color(colour).getHex(),
    linewidth: width,
    dashed: dash > 0,
    depthWrite: !halo,
    dashSize: dash,
    gapSize: dash * 0.7,
    clipping: true,
    polygonOffset: true,
    polygonOffsetFactor: -3,
    polygonOffsetUnits: -6
  });
  material.vertexShader = material.vertexShader.replace('gl_Position = clip;', `gl_Position = clip; gl_Position.z -= ${LIFT} * linewidth * clip.w;`);
  return material;
}

const glyphs = new Map<string, THREE.CanvasTexture>();

/** A filled shape with as many sides as a pole has edges; a star for seven and more; a disc for picked vertices. */
function glyphTexture(sides: number): THREE.CanvasTexture {
  const key = String(Math.min(sides, 7));
  const present = glyphs.get(key);
  if (present) return present;
  const size = 64;
  const canvas = document.createElement('canvas');
  canvas.width = canvas.height = size;
  const c = canvas.getContext('2d')!;
  c.translate(size / 2, size / 2);
  c.beginPath();
  if (sides === 0) c.arc(0, 0, 26, 0, 2 * Math.PI);
  else {
    const star = sides > 6;
    const corners = star ? 14 : sides;
    for (let i = 0; i < corners; i++) {
      const r = star && i % 2 ? 13 : 28;
      const a = -Math.PI / 2 + (2 * Math.PI * i) / corners;
      c[i === 0 ? 'moveTo' : 'lineTo'](r * Math.cos(a), r * Math.sin(a));
    }
    c.closePath();
  }
  c.fillStyle = '#fff';
  c.fill();
  const texture = new THREE.CanvasTexture(canvas);
  glyphs.set(key, texture);
  return texture;
}

/** Points drawn as glyphs of a fixed size in pixels. */
export function glyphPoints(points: Float32Array, sides: number, colour: string, size: number): THREE.Points {
  const geometry = new THREE.BufferGeometry();
  geometry.setAttribute('position', new THREE.BufferAttribute(points, 3));
  const mesh = new THREE.Points(geometry, glyphMaterial(sides, colour, size));
  mesh.renderOrder = 3;
  return mesh;
}

const glyphMaterial = (sides: number, colour: string, size: number): THREE.PointsMaterial =>
  sharedMaterial(['glyph', Math.min(sides, 7), colour, size], () => newGlyphMaterial(sides, colour, size));

function newGlyphMaterial(sides: number, colour: string, size: number): THREE.PointsMaterial {
  const material = new THREE.PointsMaterial({
    color: colour,
    size,
    sizeAttenuation: false,
    map: glyphTexture(sides),
    alphaTest: 0.5,
    transparent: true
  });
  material.polygonOffset = true;
  material.polygonOffsetFactor = -4;
  material.onBeforeCompile = (shader) => {
    // towards the eye by a hair, so that glyphs are not cut by the faces they lie on
    shader.vertexShader = shader.vertexShader.replace(
      '#include <project_vertex>',
      '#include <project_vertex>\n gl_Position.z -= 0.0006 * gl_Position.w;'
    );
  };
  return material;
}

/** Frees what a group holds on the graphics card, shared materials not. */
export function dispose(object: THREE.Object3D): void {
  object.traverse((child) => {
    const mesh = child as THREE.Mesh;
    mesh.geometry?.dispose();
    for (const material of [mesh.material].flat()) if (!material?.userData.shared) material?.dispose();
  });
  object.removeFromParent();
}
