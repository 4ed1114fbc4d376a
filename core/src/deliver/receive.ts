import { type PolygonMesh, withoutSharpness } from '../mesh/polygon-mesh.ts';
import { type Format } from '../formats/format.ts';
import { type SurfaceSettings } from '../subdivide/level-plan.ts';
import { STAYS_SHARP } from '../subdivide/level-topology.ts';
import { type Destination, SHARP_FROM } from './destination.ts';

/** What a destination has of a part once it has read the file. */
export interface Received {
  /** its cage, in mm and Y up again, whatever it took the numbers for */
  mesh: PolygonMesh;
  /** how it smooths it; nothing where it shows the faces as they are */
  settings?: SurfaceSettings;
  /** what was lost on the way, a sentence each */
  losses: string[];
  /** it takes no such file: nothing arrives */
  refused?: string;
}

/** What is sent: the part, or what was made of it for the journey. */
export interface Sent {
  mesh: PolygonMesh;
  settings: SurfaceSettings;
}

const counted = (n: number, one: string): string => `${n.toLocaleString('en')} ${one}${n === 1 ? '' : 's'}`;

/** What a destination makes of a part that is sent in a format. */
export function receive({ mesh, settings }: Sent, to: Destination, format: Format): Received {
  const losses: string[] = [];
  const faces = mesh.faceStart.length - 1;
  if (to.mostFaces > 0 && faces > to.mostFaces)
    return {
      mesh,
      losses,
      refused: `${to.name} takes up to ${to.mostFaces.toLocaleString('en')} faces; the part has ${faces.toLocaleString('en')}.`
    };
  let arrived = withoutCreases(mesh, to, format, losses);
  const cut = format.carries.polygons && !format.othersSee ? to.faces : 'triangles';
  if (cut !== 'keeps') {
    const fans = fanned(arrived, cut === 'triangles' ? 3 : 4);
    const many = fans.faceStart.length - arrived.faceStart.length;
    if (many > 0)
      losses.push(
        cut === 'triangles'
          ? `All faces are cut into triangles: ${counted(many, 'face')} more.`
          : `N-gons are cut as fans: ${counted(many, 'face')} more.`
      );
    arrived = fans;
  }
  if (!format.carries.units) {
    if (to.millimetresPerUnit !== 1)
      losses.push(`It comes out ${to.millimetresPerUnit} times as large, unless the place is told that the file is in mm.`);
    if (to.upAxis !== 'Y') losses.push('It lies on its side, unless the place is told that Y is up.');
  }
  if (settings.plan) losses.push('The level plan: it smooths every level.');
  if (to.levels === 0) {
    losses.push('Nothing is smoothed: the faces show as they are.');
    return { mesh: arrived, losses };
  }
  if (to.borders !== settings.borderCorners) losses.push(`Corners of borders are ${to.borders === 'rounded' ? 'rounded off' : 'kept sharp'}.`);
  if (to.dividesFirst > 0) losses.push(`It divides ${to.dividesFirst === 1 ? 'once' : `${to.dividesFirst} times`} before it smooths.`);
  return {
    mesh: arrived,
    settings: {
      scheme: 'catmull-clark',
      borderCorners: to.borders,
      ...(to.dividesFirst > 0 && { plan: { steps: new Array<'divide'>(to.dividesFirst).fill('divide') } })
    },
    losses
  };
}

/** The mesh with the creases that arrive. @param losses gets what does not */
function withoutCreases(mesh: PolygonMesh, to: Destination, format: Format, losses: string[]): PolygonMesh {
  const [edges, corners] = [mesh.creaseSharpness?.length ?? 0, mesh.cornerSharpness?.length ?? 0];
  if (edges + corners === 0) return mesh;
  const said = corners > 0 ? `${counted(edges, 'crease')} and ${counted(corners, 'sharp corner')}` : counted(edges, 'crease');
  const arrive = format.carries.creases && !format.othersSee;
  if (!arrive || to.creases === 'ignores') {
    losses.push(
      `${said} ${edges + corners === 1 ? 'is' : 'are'} lost: ${arrive ? `${to.name} knows none` : `${format.name} holds none${format.othersSee ? ' for others' : ''}`}.`
    );
    return withoutSharpness(mesh);
  }
  if (to.creases === 'keeps') return mesh;
  const hard = (values: Float64Array | undefined) => values?.map((s) => (s >= SHARP_FROM ? STAYS_SHARP : 0));
  const changed = [...(mesh.creaseSharpness ?? []), ...(mesh.cornerSharpness ?? [])].filter((s) => s < STAYS_SHARP).length;
  if (changed > 0) losses.push(`${counted(changed, 'crease')} between sharp and smooth ${changed === 1 ? 'is' : 'are'} taken for one of the two.`);
  return { ...mesh, creaseSharpness: hard(mesh.creaseSharpness), cornerSharpness: hard(mesh.cornerSharpness) };
}

/** Faces of more corners cut as fans from their first one. @param most corners that a face may keep */
function fanned(mesh: PolygonMesh, most: number): PolygonMesh {
  const { faceStart, faceVertices } = mesh;
  const start = [0];
  const corners: number[] = [];
  const from: number[] = [];
  const take = (f: number, own: readonly number[]) => {
    corners.push(...own.map((c) => faceVertices[c]));
    start.push(corners.length);
    from.push(f);
  };
  for (let f = 0; f + 1 < faceStart.length; f++) {
    const [a, b] = [faceStart[f], faceStart[f + 1]];
    if (b - a <= most)
      take(
        f,
        Array.from({ length: b - a }, (_, k) => a + k)
      );
    else for (let c = a + 1; c + 1 < b; c++) take(f, [a, c, c + 1]);
  }
  const { cornerUv: _uv, ...rest } = mesh;
  return {
    ...rest,
    faceStart: Int32Array.from(start),
    faceVertices: Int32Array.from(corners),
    ...(mesh.faceRegion && { faceRegion: Int32Array.from(from, (f) => mesh.faceRegion![f]) })
  };
}
