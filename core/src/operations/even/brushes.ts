import Joi from 'joi';
import { type BrushKind, type BrushSettings } from '../../even/brush-stroke.ts';
import { denseSurface, type DenseSurface } from '../../even/dense-surface.ts';
import { joinMet } from '../../even/join-met.ts';
import { linesOfCage } from '../../even/held-lines.ts';
import { freedomOf, maskedAlike } from '../../even/mask.ts';
import { BrushEdit, MeshBrushEdit } from '../../live/brush-edit.ts';
import { type Cage } from '../../mesh/cage.ts';
import { type PolygonMesh } from '../../mesh/polygon-mesh.ts';
import { type Selection } from '../../select/selection.ts';
import { type CageOperation, type Params, type Refusal } from '../operation.ts';
import { outlineOf } from '../shared/extrude-walls.ts';
import { rampOfParams } from '../shared/falloff-fields.ts';
import { type BrushParams, common, fields, imagesAcross, isPicked, waits, worked } from './brush-fields.ts';
import { heldFields } from '../shared/held-fields.ts';
import { counted } from '../shared/words.ts';

interface MovingParams extends BrushParams {
  borders: boolean;
  creases: boolean;
  regions: boolean;
}

/** Begins a stroke: of picked elements only these are touched, and the outline of picked faces stays. */
function begin(kind: BrushKind, cage: Cage, selection: Selection, params: Params, reference?: PolygonMesh): BrushEdit {
  const { radius, strength, through, mirrored, borders, creases, regions } = params as unknown as MovingParams;
  const [picked, free] = [isPicked(cage, selection), freedomOf(cage)];
  const outline = selection.faces.length > 0 ? outlineOf(cage, selection.faces).map((h) => h >> 1) : [];
  const lines = linesOfCage(cage, { borders, creases, regions }, outline);
  const settings: BrushSettings = {
    kind,
    radius,
    strength: strength / 100,
    through,
    ramp: rampOfParams(params),
    freedom: (v) => (picked(v) ? (free?.(v) ?? 1) : 0),
    mirrored: mirrored === 'none' ? undefined : { axis: 'XYZ'.indexOf(mirrored), imageOf: maskedAlike(cage, imagesAcross(cage, mirrored)) }
  };
  return new BrushEdit(cage, lines, settings, reference);
}

/** The same over a dense mesh, which has borders to hold and nothing else. */
function beginOnMesh(kind: BrushKind, mesh: PolygonMesh, params: Params): MeshBrushEdit {
  const { radius, strength, through, mirrored, borders } = params as unknown as MovingParams;
  const surface = denseSurface(mesh) as DenseSurface;
  return new MeshBrushEdit(
    mesh,
    { net: surface.net, lines: surface.lines(borders) },
    {
      kind,
      radius,
      strength: strength / 100,
      through,
      ramp: rampOfParams(params),
      freedom: () => 1,
      mirrored: mirrored === 'none' ? undefined : { axis: 'XYZ'.indexOf(mirrored), imageOf: surface.images(mirrored) }
    }
  );
}

/** Why a dense mesh cannot be brushed. */
function meshRefusal(mesh: PolygonMesh): Refusal | undefined {
  const surface = denseSurface(mesh);
  if ('net' in surface) return undefined;
  return { found: `The dense mesh cannot be brushed. ${surface.problem}`, instead: 'Bring it in again and let it be repaired.' };
}

/** What is said of a brush on the rack and in lists. */
interface BrushWords extends Pick<CageOperation, 'id' | 'name' | 'purpose' | 'icon' | 'key'> {
  /** the brush that the space bar swaps it for, by its id */
  partner?: string;
  /** held to begin with: what evens out keeps lines, what pulls takes them along */
  holds: boolean;
  /** border vertices may join others that they meet */
  joins?: boolean;
  strength?: number;
}

/** Whether what is pulled joins what it meets, and within how many mm. */
interface JoinParams {
  join: boolean;
  joinWithin: number;
}

/** A stroke that joins what it meets: every step of it is done anew. */
function joined(work: Pick<CageOperation, 'live' | 'run'>): Pick<CageOperation, 'live' | 'run'> {
  return {
    live: { ...work.live!, suits: ({ join }) => join !== true },
    run(cage, selection, params, around) {
      const made = work.run(cage, selection, params, around);
      const { join, joinWithin } = params as unknown as JoinParams;
      const met = join ? joinMet(cage, made.cage, joinWithin) : 0;
      if (met === 0) return made;
      const still = { ...selection, vertices: selection.vertices.filter((v) => made.cage.hasVertex(v)) };
      return { ...made, selection: still, notes: [...made.notes, `${counted(met, 'vertex', 'vertices')} joined what they met.`] };
    }
  };
}

const joinFields = {
  join: Joi.boolean().default(false).label('Join what it meets'),
  joinWithin: Joi.number()
    .min(0)
    .max(1e6)
    .default(0.5)
    .label('Within')
    .unit('mm')
    .meta({ step: 0.1, when: { field: 'join', is: 'true' } })
};

function brush(kind: BrushKind, { holds, joins = false, strength = 50, partner, ...words }: BrushWords): CageOperation {
  const work = worked((cage, selection, params, around) => begin(kind, cage, selection, params, around?.reference));
  return {
    ...words,
    ...common,
    brushed: { partner },
    hint: 'Drag over the surface; each stroke is an entry. Its key or Alt, and the wheel: size (Shift: strength). Ctrl works the other way; Space swaps brushes; Esc ends.',
    params: Joi.object({
      ...fields(strength),
      ...(joins && joinFields),
      ...heldFields({ borders: holds, creases: holds, regions: false }, { more: true })
    }),
    ...(joins ? joined(work) : work),
    onMesh: { waits, refusal: meshRefusal, begin: (mesh, params) => beginOnMesh(kind, mesh, params) }
  };
}

/** The brushes of Even out that move vertices. */
export const movingBrushes: readonly CageOperation[] = [
  brush('relax', {
    id: 'relax-brush',
    key: 'Z',
    name: 'Relax',
    purpose: 'Brush that spaces vertices evenly along the surface, with the volume kept.',
    icon: 'WatsonHealthSmoothingCursor',
    partner: 'smooth-brush',
    holds: true
  }),
  brush('drag', {
    id: 'drag-brush',
    key: 'X',
    name: 'Drag',
    purpose: 'Brush that pulls what lies under it along with the pointer, less towards its rim.',
    icon: 'WatsonHealthBrushFreehand',
    partner: 'glide-brush',
    holds: false,
    joins: true,
    strength: 100
  }),
  brush('smooth', {
    id: 'smooth-brush',
    name: 'Smooth',
    purpose: 'Brush that smooths plainly: bumps go, and rounded forms shrink.',
    icon: 'Gradient',
    partner: 'relax-brush',
    holds: true
  }),
  brush('raise', {
    id: 'raise-brush',
    name: 'Raise',
    purpose: 'Brush that raises the surface along its normals, or lowers it with Ctrl.',
    icon: 'ChartArea',
    partner: 'level-brush',
    holds: false
  }),
  brush('glide', {
    id: 'glide-brush',
    name: 'Glide',
    purpose: 'Brush that slides vertices on the surface, which stays as it is.',
    icon: 'DirectionCurve',
    partner: 'drag-brush',
    holds: true,
    strength: 100
  }),
  brush('gather', {
    id: 'gather-brush',
    name: 'Gather',
    purpose: 'Brush that draws vertices towards the stroke along the surface, or away from it with Ctrl.',
    icon: 'CenterCircle',
    holds: true
  }),
  brush('level', {
    id: 'level-brush',
    name: 'Level',
    purpose: 'Brush that brings what lies under it onto one plane.',
    icon: 'ChartAverage',
    partner: 'raise-brush',
    holds: false
  })
];
