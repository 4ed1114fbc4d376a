import { lengthInWords } from '../../numeric/length-words.ts';
import { faceGroups } from '../../operations/shared/extrude-walls.ts';
import { counted } from '../../operations/shared/words.ts';
import { emptySelection, selectFaces, selectVertices } from '../../select/selection.ts';
import { type Finding, type FindingKind } from './finding.ts';

/** Share of its edge by which the smooth surface has to lie off the reference at one of a face's vertices. */
const FAR = 0.25;
/** Share of a part's vertices that have a partner for it to be meant symmetric; parts of fewer vertices are not looked at. */
const [MEANT, FEWEST] = [0.8, 8];

/** Faces whose smooth surface lies far off the reference. */
export const farKind: FindingKind = {
  id: 'far-off',
  name: 'Far from the reference',
  goesBy: 'everything',
  find(ground) {
    const { cage, reference } = ground;
    if (!reference) return [];
    const off = (v: number) => ground.offReference(v);
    const far = [...cage.faces()].filter((f) => cage.faceVertices(f).reduce((most, v) => Math.max(most, off(v)), 0) > FAR * ground.edgeOf(f));
    return faceGroups(cage, far, true).map((group): Finding => {
      const farthest = group.flatMap((f) => cage.faceVertices(f)).reduce((a, b) => (off(b) > off(a) ? b : a));
      const size = off(farthest);
      const where = selectFaces(group);
      return {
        kind: 'far-off',
        place: cage.position(farthest),
        where,
        size,
        unit: 'mm',
        visible: true,
        rank: 0.1 * size,
        why: `The smooth surface of ${counted(group.length, 'face', 'faces')} lies up to ${lengthInWords(size)} off the reference.`,
        fixes: [{ label: 'Hold it there', operation: 'hold', params: { fit: 'surface' }, pick: where }]
      };
    });
  }
};

/** Vertices without an exact partner in a part that is nearly symmetric. */
export const symmetryKind: FindingKind = {
  id: 'nearly-symmetric',
  name: 'Nearly symmetric',
  goesBy: 'everything',
  find(ground) {
    const { cage } = ground;
    if (cage.vertexCount < FEWEST) return [];
    for (const axis of [0, 1, 2]) {
      const alone = ground.partners().nearlyAlone(axis, MEANT) ?? [];
      if (alone.length === 0) continue;
      return [
        {
          kind: 'nearly-symmetric',
          place: cage.position(alone[0]),
          where: selectVertices(alone),
          size: alone.length,
          unit: '',
          visible: false,
          rank: 0,
          why: `${counted(alone.length, 'vertex has', 'vertices have')} a partner in ${'XYZ'[axis]} only nearly: what is mirrored later comes out uneven.`,
          fixes: [{ label: 'Mirror the part', operation: 'mirror', params: {}, pick: emptySelection() }]
        }
      ];
    }
    return [];
  }
};
