import * as THREE from 'three';
import { deepestLevel, possibleScheme, splitAtCreases, Subdivision, triangulate, type Part, type PolygonMesh } from '@ulvrin/core';
import type { StandColours } from '$lib/settings/theme.svelte.ts';
import { followIn, followingPlaces, unculled } from './followers.ts';
import { clayMaterial, lineLights, outlineMaterial, paintedMaterial, thinLines, type ClaySettings } from './marks/materials.ts';
import { MovedSurface } from './moved-surface.ts';
import { vertexNormals } from './vertex-normals.ts';

/** Faces of the drawn surface beyond which a lower level is shown. */
const MOST_DRAWN = 1_200_000;

/** Triangles up to which a surface is drawn twice, for its silhouette. */
export const MOST_OUTLINED = 500_000;

/** A cage's smooth surface on the stand; it follows moved vertices of the cage, and touches what they move alone. */
export class SmoothDrawing {
  readonly group = new THREE.Group();
  readonly mesh: THREE.Mesh;
  /** level really shown; lower than asked for where that would be too much */
  readonly level: number;
  /** by triangle the face of the polygons it lies in */
  readonly faceOf: Int32Array;
  readonly subdivision: Subdivision;
  /** points drawn once more, so that both sides of a crease have normals of their own: the point each stands for */
  private readonly creaseCopies: Int32Array;
  private moved?: MovedSurface;
  private seams?: THREE.LineSegments;

  /**
   * @param poly the cage as polygons, with faces; its positions are followed
   * @param isShown tells faces of the polygons that are drawn; left out: all are
   */
  constructor(
    poly: PolygonMesh,
    { scheme: asked, borderCorners, plan }: Part,
    wanted: { level: number; cage: boolean; clay: ClaySettings },
    private readonly colours: StandColours,
    isShown?: (face: number) => boolean
  ) {
    const scheme = possibleScheme(asked!, poly.faceStart.length - 1, poly.faceVertices.length);
    const first = scheme === 'loop' ? poly.faceStart.length - 1 : poly.faceVertices.length / 4;
    this.level = deepestLevel(first, MOST_DRAWN, wanted.level, 0);
    this.subdivision = new Subdivision(poly, { scheme, levels: this.level, borderCorners, plan });
    const { last } = this.subdivision;
    const points = this.subdivision.evaluate(poly.positions);
    const cageFaces = this.subdivision.cageFaces();
    const { cornerPoint, copies } = splitAtCreases(last);
    this.creaseCopies = Int32Array.from(copies);
    const drawn = new Float32Array(points.length + 3 * copies.length);
    drawn.set(points);
    copies.forEach((v, i) => drawn.set(points.subarray(3 * v, 3 * v + 3), points.length + 3 * i));
    const { triangles, faceOf } = triangulate({ positions: Float64Array.from(drawn), faceStart: last.faceStart, faceVertices: cornerPoint });
    const own = Int32Array.from(faceOf, (f) => cageFaces[f]);
    const kept = isShown ? [...own.keys()].filter((t) => isShown(own[t])) : undefined;
    const index = kept ? Uint32Array.from(kept.flatMap((t) => [...triangles.subarray(3 * t, 3 * t + 3)])) : triangles;
    this.faceOf = kept ? Int32Array.from(kept, (t) => own[t]) : own;
    const geometry = new THREE.BufferGeometry();
    geometry.setIndex(new THREE.BufferAttribute(index as Uint32Array<ArrayBuffer>, 1));
    geometry.setAttribute('position', new THREE.BufferAttribute(drawn, 3));
    geometry.setAttribute('normal', new THREE.BufferAttribute(new Float32Array(drawn.length), 3));
    vertexNormals(drawn, index, geometry.getAttribute('normal').array as Float32Array);
    this.mesh = unculled(new THREE.Mesh(geometry, clayMaterial(colours, wanted.clay)));
    this.group.add(this.mesh);
    const isWhole = (wanted.clay.opacity ?? 1) === 1;
    if (this.faceOf.length < MOST_OUTLINED && !wanted.cage && isWhole)
      this.group.add(unculled(new THREE.Mesh(geometry, outlineMaterial(colours.wire))));
    if (!isShown) this.addSeams(!wanted.cage);
  }

  /** The cage's own edges on the smooth surface, thin. */
  private addSeams(visible: boolean): void {
    const { levels, points } = this.subdivision;
    // either scheme numbers the halves of edge e as 2e and 2e + 1
    const index = levels[this.level].edgeVertices.slice(0, 2 * levels[0].edges * 2 ** this.level);
    const material = thinLines(this.colours.wire, 0.35);
    this.seams = followingPlaces(index, points[points.length - 1], (geometry) => new THREE.LineSegments(geometry, material));
    this.seams.visible = visible;
    this.group.add(this.seams);
  }

  /** Follows points of the polygons that have moved. */
  move(moved: ArrayLike<number>): void {
    const { subdivision, level } = this;
    const changed = subdivision.update(Array.from(moved));
    const points = subdivision.points[subdivision.points.length - 1];
    const list = level === 0 ? moved : changed;
    this.moved ??= new MovedSurface(this.mesh.geometry, this.creaseCopies, points.length / 3);
    this.moved.follow(list, points);
    if (this.seams) followIn(this.seams, list, points);
  }

  /** Every edge of the shown level, thin; it shares the surface's points, and follows them. */
  everyEdge(): THREE.LineSegments {
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', this.mesh.geometry.getAttribute('position'));
    geometry.setIndex(new THREE.BufferAttribute(Uint32Array.from(this.subdivision.last.edgeVertices), 1));
    return unculled(new THREE.LineSegments(geometry, thinLines(this.colours.wire, 0.4)));
  }

  /**
   * The surface once more, in colours by point; nothing where there are fewer.
   * @param colours red, green and blue by point of a level, of which those of lower levels are the first
   */
  painted(colours: Float32Array): THREE.Mesh | undefined {
    const count = this.subdivision.points[this.subdivision.points.length - 1].length / 3;
    if (colours.length < 3 * count) return undefined;
    const { position, normal } = this.mesh.geometry.attributes;
    const geometry = new THREE.BufferGeometry();
    // shares the surface's points, and follows them
    geometry.setAttribute('position', position).setAttribute('normal', normal).setIndex(this.mesh.geometry.index);
    const all = new Float32Array(3 * position.count);
    all.set(colours.subarray(0, 3 * count));
    this.creaseCopies.forEach((v, i) => all.set(colours.subarray(3 * v, 3 * v + 3), 3 * (count + i)));
    geometry.setAttribute('color', new THREE.BufferAttribute(all, 3));
    return unculled(new THREE.Mesh(geometry, paintedMaterial(false)));
  }

  /** The surface once more, as it mirrors line lights. */
  lit(light: 'turning' | 'staying'): THREE.Mesh {
    const { position, normal } = this.mesh.geometry.attributes;
    const geometry = new THREE.BufferGeometry();
    geometry.setAttribute('position', position).setAttribute('normal', normal).setIndex(this.mesh.geometry.index);
    return unculled(new THREE.Mesh(geometry, lineLights(false, light)));
  }

  /** The corner of a drawn triangle that is nearest to a place, as a point of the surface. */
  pointNear(triangle: number, place: THREE.Vector3): number {
    const { index, attributes } = this.mesh.geometry;
    const away = (i: number) => place.distanceToSquared(new THREE.Vector3().fromBufferAttribute(attributes.position, i));
    const corners = [0, 1, 2].map((k) => index!.getX(3 * triangle + k));
    const nearest = corners.reduce((a, b) => (away(b) < away(a) ? b : a));
    const count = attributes.position.count - this.creaseCopies.length;
    return nearest < count ? nearest : this.creaseCopies[nearest - count];
  }

  /** Colours by face of the polygons as colours by point: red, green and blue one after the other. */
  coloursByPoint(colours: Float32Array): Float32Array {
    const channels = [0, 1, 2].map((k) => this.byPoint(Float32Array.from({ length: colours.length / 3 }, (_, f) => colours[3 * f + k])));
    return Float32Array.from({ length: 3 * channels[0].length }, (_, i) => channels[i % 3][Math.floor(i / 3)]);
  }

  /** Values by face of the polygons as values by point: the mean of the faces round each. */
  byPoint(values: ArrayLike<number>): Float64Array {
    const count = this.subdivision.points[this.subdivision.points.length - 1].length / 3;
    const index = this.mesh.geometry.index!.array;
    const [sum, many] = [new Float64Array(count), new Uint16Array(count)];
    for (let i = 0; i < index.length; i++) {
      const v = index[i] < count ? index[i] : this.creaseCopies[index[i] - count];
      sum[v] += values[this.faceOf[Math.floor(i / 3)]];
      many[v]++;
    }
    return sum.map((s, v) => (many[v] > 0 ? s / many[v] : 0));
  }
}
