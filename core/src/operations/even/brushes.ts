import Joi from 'joi';
import { type BrushKind } from '../../even/brush-stroke.ts';
import { dabsIn, notAStroke } from '../../even/dabs.ts';
import { freedomOf, maskedAlike } from '../../even/mask.ts';
import { linesOfCage } from '../../even/held-lines.ts';
import { BrushEdit } from '../../live/brush-edit.ts';
import { type LiveEdit } from '../../live/live-edit.ts';
import { MaskEdit } from '../../live/mask-edit.ts';
import { type Cage } from '../../mesh/cage.ts';
import { boundsOf } from '../../mesh/polygon-mesh.ts';
import { type Axis, counterpartsByPosition, mirrorTolerance } from '../../select/counterparts.ts';
import { isEmpty, verticesOf, type Selection } from '../../select/selection.ts';
import { type CageOperation, type Params, type Refusal } from '../operation.ts';
import { outlineOf } from '../shared/extrude-walls.ts';

interface BrushParams {
  dabs: number[];
  radius: number;
  strength: number;
  through: boolean;
  mirrored: 'none' | Axis;
  borders: boolean;
  creases: boolean;
  regions: boolean;
}

/** Tells which vertices are picked: all where nothing is. */
function isPicked(cage: Cage, selection: Selection): (v: number) => boolean {
  if (isEmpty(selection)) return () => true;
  const picked = new Set(verticesOf(cage, selection));
  return (v) => picked.has(v);
}

/** Begins a stroke: of picked elements only these are touched, and the outline of picked faces stays. */
function begin(kind: BrushKind, cage: Cage, selection: Selection, params: Params): BrushEdit {
  const { radius, strength, through, mirrored, borders, creases, regions } = params as unknown as BrushParams;
  const [picked, free] = [isPicked(cage, selection), freedomOf(cage)];
  const outline = selection.faces.length > 0 ? outlineOf(cage, selection.faces).map((h) => h >> 1) : [];
  return new BrushEdit(cage, linesOfCage(cage, { borders, creases, regions }, outline), {
    kind,
    radius,
    strength: strength / 100,
    through,
    freedom: (v) => (picked(v) ? (free?.(v) ?? 1) : 0),
    mirrored: mirrored === 'none' ? undefined : { axis: 'XYZ'.indexOf(mirrored), imageOf: maskedAlike(cage, imagesAcross(cage, mirrored)) }
  });
}

/** Images of vertices across a plane. */
const imagesAcross = (cage: Cage, axis: Axis): ReadonlyMap<number, number> => counterpartsByPosition(cage, axis, mirrorTolerance(cage));

/** What is said of a brush on the rack and in lists. */
interface BrushWords extends Pick<CageOperation, 'id' | 'name' | 'purpose' | 'icon' | 'key'> {
  /** the brush that the space bar swaps it for, by its id */
  partner?: string;
  /** held to begin with: what evens out keeps lines, what pulls takes them along */
  holds: boolean;
  strength?: number;
}

const hold = (label: string, initial: boolean) => Joi.boolean().default(initial).label(label).meta({ more: true });

/** Radius of a brush at first, as a share of the part's diagonal. */
const RADIUS = 0.08;

/** What all brushes have in common. */
const common = {
  kind: 'cage' as const,
  bench: 6 as const,
  group: 'Brushes' as const,
  needs: 'Needs a part with faces.',
  once: ['dabs'],
  goesOn: true,
  heedsMask: true as const,
  fits: (cage: Cage): Params => ({
    radius: Number((RADIUS * boundsOf(cage.positions.subarray(0, 3 * cage.vertexSlots)).diagonal || 10).toPrecision(2))
  }),
  check: (cage: Cage, _selection: Selection, params: Params): Refusal | undefined => {
    if (cage.faceCount === 0) return { found: 'The part has no faces to brush over.', instead: 'Lay or bring in faces first.' };
    return dabsIn((params as unknown as BrushParams).dabs) > 0
      ? undefined
      : { numbers: true, waits: true, found: 'Drag over the surface: each stroke is an entry of its own.' };
  }
};

/** Fields that all brushes have. */
const fields = (strength: number) => ({
  radius: Joi.number().greater(0).max(1e6).default(10).label('Radius').unit('mm').meta({ step: 1 }),
  strength: Joi.number().min(0).max(100).default(strength).label('Strength').unit('%').meta({ step: 5 }),
  through: Joi.boolean().default(false).label('Through the part').meta({ more: true }),
  mirrored: Joi.string()
    .valid('none', 'X', 'Y', 'Z')
    .default('none')
    .label('Symmetric across')
    .meta({ labels: { none: 'Nothing', X: 'X = 0', Y: 'Y = 0', Z: 'Z = 0' } }),
  dabs: Joi.any()
    .custom((value: unknown, helpers) => {
      const why = notAStroke(value);
      return why ? helpers.message({ custom: `"Stroke" ${why}` }) : value;
    })
    .default([])
    .meta({ hidden: true })
});

/** What a stroke makes of a cage: the same live and at once. */
const worked = (begin: (cage: Cage, selection: Selection, params: Params) => LiveEdit): Pick<CageOperation, 'live' | 'run'> => ({
  live: { numbers: ['dabs'], begin },
  run(cage, selection, params) {
    const edit = begin(cage, selection, params);
    edit.step(params);
    return { cage: edit.cage, selection, notes: [...edit.notes] };
  }
});

function brush(kind: BrushKind, { holds, strength = 50, partner, ...words }: BrushWords): CageOperation {
  return {
    ...words,
    ...common,
    brushed: { partner },
    hint: 'Drag over the surface; each stroke is an entry. Its key or Alt, and the wheel: size (Shift: strength). Ctrl works the other way; Space swaps brushes; Esc ends.',
    params: Joi.object({
      ...fields(strength),
      borders: hold('Hold borders', holds),
      creases: hold('Hold creases', holds),
      regions: hold('Hold outlines of regions', false)
    }),
    ...worked((cage, selection, params) => begin(kind, cage, selection, params))
  };
}

/** Paints the mask. */
const maskBrush: CageOperation = {
  ...common,
  id: 'mask-brush',
  key: 'B',
  name: 'Mask',
  purpose: 'Brush that masks vertices, so that they stay where others are moved; with Ctrl it takes masks away.',
  icon: 'Locked',
  brushed: {},
  hint: 'Drag to mask; Ctrl takes masks away. Its key or Alt, and the wheel: size (Shift: strength). Esc ends.',
  params: Joi.object(fields(100)),
  ...worked((cage, selection, params) => {
    const { radius, strength, through, mirrored } = params as unknown as BrushParams;
    const picked = isPicked(cage, selection);
    return new MaskEdit(cage, {
      radius,
      through,
      strength: strength / 100,
      follows: (v) => Number(picked(v)),
      imageOf: mirrored === 'none' ? undefined : imagesAcross(cage, mirrored)
    });
  })
};

/** The brushes of Even out. */
export const brushes: readonly CageOperation[] = [
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
  }),
  maskBrush
];
